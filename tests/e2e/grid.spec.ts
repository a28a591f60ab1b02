import { expect, test, type Page } from './base';
import { newBench, progress, setUp } from './people';

/** Prints the ladder that is open on the understudy and waits for its picture to be scored. */
async function onUnderstudy(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Generate file' }).click();
  await expect(page.getByText('60 of 60 confirmed', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: 'Print on the understudy' }).click();
  await expect(page.getByRole('heading', { name: 'Score' })).toBeAttached();
}

/** What somebody says of stringing who sees it best at 203 to 214 °C and from 1.2 mm on. */
const said = (row: number, column: number): string => {
  const heat = [0, 1, 1, 0, -1][row]!;
  return String(Math.max(0, Math.min(4, 3 + heat - Math.max(0, 3 - column))));
};

test('a grid tower: designed, printed, scored by keys in both directions, both values saved and taken back', async ({
  page,
}) => {
  await newBench(page, 'Heron of grids', 'Moss of grids');
  await setUp(page, 'temperature and retraction');
  // Too many cells are told, with the smaller grid; the drawing has rows and columns.
  await page.getByLabel('Step, °C').fill('2');
  await expect(page.getByText('cells to look at')).toBeVisible();
  await page.getByRole('button', { name: 'Steps twice as large' }).click();
  await page.getByLabel('Step, °C').fill('11');
  await onUnderstudy(page);

  await expect(
    page.getByText('row 1 of 5 from the bottom, column 1 of 6 from the left'),
  ).toBeVisible();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowRight');
  await expect(
    page.getByText('row 2 of 5 from the bottom, column 2 of 6 from the left'),
  ).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowLeft');
  await page.getByRole('button', { name: 'by criterion' }).click();
  for (let row = 0; row < 5; row++)
    for (let column = 0; column < 6; column++) await page.keyboard.press(said(row, column));
  await expect(progress(page)).toHaveText('30 / 90');
  // Told on the drawing itself, and every cell of it can be pressed.
  await page.getByRole('button', { name: 'gloss at 214 °C · 5 mm: no score' }).click();
  await expect(
    page.getByRole('button', { name: 'gloss at 214 °C · 5 mm: no score' }),
  ).toHaveAttribute('aria-current', 'true');
  await page.getByRole('link', { name: 'Finding' }).first().click();
  await expect(page.getByText('Proposed together')).toBeVisible();
  await expect(page.getByRole('img', { name: /Lines of equal goodness/ })).toBeVisible();
  await expect(
    page.getByRole('table', { name: 'Best retraction distance at each nozzle temperature' }),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Save both to ledger, as simulated' }).click();
  await expect(page.getByText('Saved to the ledger, as simulated')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(
    page.getByRole('button', { name: 'Save both to ledger, as simulated' }),
  ).toBeVisible();
});

test(
  'a grid at 390 x 844: cells by thumb, and the best row of each column in one tap',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron of thumbs', 'Moss of thumbs');
    await setUp(page, 'temperature and retraction');
    await onUnderstudy(page);
    await page.setViewportSize({ width: 390, height: 844 });
    await page.getByRole('button', { name: 'Cell 203 °C · 4 mm' }).click();
    await expect(
      page.getByText('row 3 of 5 from the bottom, column 3 of 6 from the left'),
    ).toBeVisible();
    await page.getByRole('button', { name: '3 good' }).click();
    await expect(progress(page)).toHaveText('1 / 90');
    await page.getByRole('button', { name: 'best rows' }).click();
    for (const [mm, heat] of [
      [2, 192],
      [3, 203],
      [4, 203],
      [5, 214],
      [6, 214],
      [7, 214],
    ])
      await page
        .getByRole('cell')
        .getByRole('button', { name: `${heat} °C · ${mm} mm` })
        .click();
    await expect(page.getByText('6 of 6 chosen')).toBeVisible();
    await page.getByRole('link', { name: 'See the finding' }).click();
    await expect(page.getByText('Proposed together')).toBeVisible();
    await expect(page.getByText('Nozzle temperature').first()).toBeVisible();
    // Nothing on the page is wider than the window.
    const wide = await page.evaluate(() => document.documentElement.scrollWidth);
    expect(wide).toBeLessThanOrEqual(390);
  },
);
