import { expect, test, type Page } from './base';
import { newBench, newLadder, printIt, progress } from './people';

/** Scores one criterion over all seven rungs, bottom first, with the keyboard. */
async function scoreFirst(page: Page, scores: string): Promise<void> {
  await page.getByRole('button', { name: 'by criterion' }).click();
  await expect(page.getByText('1 of 6')).toBeVisible();
  for (const score of scores) await page.keyboard.press(score);
}

test('several readings are pooled, and one can be left out and brought back', async ({ page }) => {
  await newBench(page, 'Heron pool', 'Moss pool');
  await newLadder(page);
  await printIt(page);
  await scoreFirst(page, '0134310');
  await page.getByText('more readings').click();
  await page.getByRole('button', { name: 'Score the same print again' }).click();
  await expect(page.getByText('print 1, reading 2 · more readings (2)')).toBeVisible();
  await scoreFirst(page, '0123321');
  await page.getByRole('link', { name: 'Finding' }).first().click();
  await expect(page.getByText('From 1 print, 2 readings.')).toBeVisible();

  await page.getByRole('link', { name: 'Score', exact: true }).click();
  await page.getByText('more readings').click();
  await page.getByRole('button', { name: 'Archive print 1, reading 2' }).click();
  await expect(page.getByText('print 1, reading 2 is in the archive.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(page.getByText('print 1, reading 2 · more readings (2)')).toBeVisible();
});

test(
  'turning a weight changes what is proposed, and stays turned',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron weights', 'Moss weights');
    await newLadder(page);
    await printIt(page);
    await scoreFirst(page, '0012344');
    await expect(progress(page)).toHaveText('7 / 42');
    // The next criterion says the opposite.
    for (const score of '4432100') await page.keyboard.press(score);
    await expect(progress(page)).toHaveText('14 / 42');
    await page.getByRole('link', { name: 'Finding' }).first().click();
    const stringing = page.getByRole('slider', { name: 'Weight of stringing' });
    await expect(stringing).toBeVisible();
    await stringing.focus();
    await page.keyboard.press('Home');
    await expect(page.getByRole('heading', { name: 'The answer may lie outside' })).toBeVisible();
    await page.reload();
    await expect(stringing).toHaveValue('0');
  },
);

test(
  'a bench that was changed after its file was made says so',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron changed', 'Moss changed');
    await newLadder(page);
    await page.getByRole('button', { name: 'Generate file' }).click();
    await expect(page.getByRole('heading', { name: 'Ready to print' })).toBeVisible();
    const print = page.url();
    await page.goto('/things');
    await page
      .getByRole('link', { name: /Heron changed/ })
      .first()
      .click();
    await page.getByLabel('Travel speed, mm/s', { exact: true }).fill('120');
    await page.getByRole('button', { name: 'Save' }).click();
    await expect(page).toHaveURL(/\/things$/);
    await page.goto(print);
    await expect(page.getByText('The bench was changed after this file was made')).toBeVisible();
  },
);

test(
  'another filament on the same spool holder makes the value stale, with the reason',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron stale', 'Moss stale');
    await newLadder(page);
    await printIt(page);
    await scoreFirst(page, '0134310');
    await page.getByRole('link', { name: 'Finding' }).first().click();
    await page.getByRole('button', { name: 'Save to ledger' }).click();
    await expect(page.getByText('Saved to the ledger.')).toBeVisible();
    await page.goto('/things');
    await page
      .getByRole('link', { name: /Moss stale/ })
      .first()
      .click();
    await page.getByLabel('Material').selectOption('PETG');
    await page.getByRole('button', { name: 'Save' }).click();
    await expect(page).toHaveURL(/\/things$/);
    await page.getByRole('link', { name: /Heron stale · 0.4 mm · Moss stale/ }).click();
    await expect(page.getByText('stale: material')).toBeVisible();
  },
);

test(
  'a value stands on the bench as it was printed, not as it is when it is saved',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron printed', 'Moss printed');
    await newLadder(page);
    await printIt(page);
    await scoreFirst(page, '0134310');
    const read = page.url();
    // Meanwhile the spool is another one.
    await page.goto('/things');
    await page
      .getByRole('link', { name: /Moss printed/ })
      .first()
      .click();
    await page.getByLabel('Material').selectOption('PETG');
    await page.getByRole('button', { name: 'Save' }).click();
    await expect(page).toHaveURL(/\/things$/);
    await page.goto(read.replace('/read', '/finding'));
    await page.getByRole('button', { name: 'Save to ledger' }).click();
    await expect(page.getByText('Saved to the ledger.')).toBeVisible();
    await page.getByRole('link', { name: /Heron printed · 0.4 mm · Moss printed/ }).click();
    await expect(page.getByText('stale: material')).toBeVisible();
  },
);
