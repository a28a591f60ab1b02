import { expect, test } from './base';
import { newBench, progress, setUp } from './people';

test(
  'how fast each lean may be laid: scored by keys, a limit for each in the ledger, its table on the bench',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron of leans', 'Moss of leans');
    await setUp(page, 'lean and speed');
    await page.getByRole('button', { name: 'Generate file' }).click();
    await expect(page.getByRole('heading', { name: 'Ready to print' })).toBeVisible();
    await page.getByRole('button', { name: 'Printed: score it' }).click();
    await expect(
      page.getByText('row 1 of 5 from the front, column 1 of 4 from the left'),
    ).toBeVisible();
    // Rows are not compared here: a limit wants scores.
    await expect(page.getByRole('button', { name: 'best rows' })).toBeHidden();
    await page.getByRole('button', { name: 'by criterion' }).click();
    for (const row of ['4444', '4443', '4321', '3210', '1000'])
      for (const score of row) await page.keyboard.press(score);
    await expect(progress(page)).toHaveText('20 / 20');
    await page.setViewportSize({ width: 390, height: 844 });
    await page.getByRole('link', { name: 'See the finding' }).click();
    await expect(page.getByRole('heading', { name: 'Proposed wall speed, at most' })).toBeVisible();
    const table = page.getByRole('table', { name: /Wall speed that is clean, by/ });
    await expect(table.getByRole('row')).toHaveCount(5);
    await expect(table.getByRole('row').first()).toContainText('at least');
    await expect(table.getByRole('row').last()).toContainText('nothing clean');
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(
      390,
    );
    await page.getByRole('button', { name: 'Save to ledger' }).click();
    await expect(page.getByText('Saved to the ledger')).toBeVisible();
    await page.goto('/');
    await expect(page.getByRole('heading', { name: 'Table of wall speed' })).toBeVisible();
    await expect(page.getByRole('textbox', { name: 'Rows' })).toHaveValue(/^\d+(;|, )\d+\n/);
  },
);
