import { expect, test } from './base';
import { newBench, newLadder, printIt, progress, setUp } from './people';

test(
  'a value is found, proven blind against the one before, and stands so on the route',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron of proofs', 'Moss of proofs');
    await newLadder(page);
    await printIt(page);
    await page.keyboard.press('m');
    for (const key of '0134431') await page.keyboard.press(key);
    await page.getByRole('link', { name: 'Finding' }).first().click();
    await page.getByRole('button', { name: 'Save to ledger' }).click();
    await expect(page.getByText('Saved to the ledger')).toBeVisible();
    await page.getByRole('link', { name: /Heron of proofs/ }).click();

    // The same part twice: what cannot change twice a layer stands one over the other.
    await setUp(page, 'proof');
    await page.getByText('More settings').click();
    await page.getByLabel('Before: nozzle temperature').fill('190');
    await page.getByLabel('Draw of A and B').fill('3');
    // Nothing says which is which: neither the drawing nor the lines of the file, nor the file itself.
    await expect(page.getByLabel('Drawing').getByText(/M104|M109|190/)).toHaveCount(0);
    await page.getByRole('button', { name: 'Preview' }).click();
    await expect(page.getByText(/give away which part of this proof/)).toBeVisible();
    await page.getByRole('button', { name: 'Generate file' }).click();
    await expect(page.getByRole('heading', { name: 'Ready to print' })).toBeVisible();
    await expect(page.getByLabel('Drawing').getByText(/M104|M109|190/)).toHaveCount(0);
    await page.getByRole('link', { name: 'Inspect', exact: true }).click();
    await expect(page.getByText('This proof is blind', { exact: false })).toBeVisible();
    await page.goBack();
    await page.getByRole('button', { name: 'Printed: score it' }).click();
    await expect(page.getByText('rung 1 of 2 from the bottom')).toBeVisible();

    // Nothing is told while hardly anything is scored.
    await page.getByRole('button', { name: 'by criterion' }).click();
    for (let n = 0; n < 2; n++) for (const key of '14') await page.keyboard.press(key);
    await expect(progress(page)).toHaveText('4 / 16');
    await page.getByRole('link', { name: 'Finding' }).first().click();
    await expect(page.getByText('which is which is told after 5')).toBeVisible();
    await page.getByRole('link', { name: 'Continue scoring' }).click();
    await expect(progress(page)).toHaveText('4 / 16');
    for (let n = 0; n < 6; n++) for (const key of '14') await page.keyboard.press(key);
    await expect(progress(page)).toHaveText('16 / 16');
    await page.getByRole('link', { name: 'See the finding' }).click();

    const headline = page.getByText(/^(Better|Worse) than before$/);
    await expect(headline).toBeVisible();
    await expect(page.getByText(/A was (before|after), B was (before|after)/)).toBeVisible();
    await expect(headline).toHaveText('Better than before');
    await page.getByRole('button', { name: 'Mark this value as proven' }).click();
    await expect(page.getByText('Marked as proven')).toBeVisible();
    await page.getByRole('link', { name: /Heron of proofs/ }).click();
    const route = page.getByRole('list', { name: 'Route, last first' });
    await expect(route.getByRole('listitem').filter({ hasText: 'Proof' })).toContainText(
      '1 of 1 values proven',
    );
    await expect(route.getByRole('listitem').filter({ hasText: 'Temperature' })).toContainText(
      'proven',
    );
  },
);
