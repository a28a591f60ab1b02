import { expect, test } from './base';
import { newBench, setUp } from './people';

test('a map of pressure advance: designed over two prints, read by thumb, its rows in the ledger to be pasted', async ({
  page,
}) => {
  await newBench(page, 'Heron of maps', 'Moss of maps');
  await setUp(page, 'map of pressure advance');
  // What a bed has no room for goes on another print, at one press.
  await expect(page.getByText('12 cells take 2 prints: this is print 1 of 2')).toBeVisible();
  await page.getByRole('button', { name: 'Print 2' }).click();
  await expect(page.getByText('this is print 2 of 2')).toBeVisible();
  await page.getByRole('button', { name: 'Print 1' }).click();
  await expect(page.getByText('this is print 1 of 2')).toBeVisible();
  await page.getByRole('button', { name: 'Generate file' }).click();
  await expect(page.getByRole('heading', { name: 'Ready to print' })).toBeVisible();
  await page.getByRole('button', { name: 'Printed: score it' }).click();

  // Keys: up to a figure, b makes it the best and goes on, left goes back.
  await expect(page.getByText(/cell 1 of \d+/)).toBeVisible();
  const cells = Number(/of (\d+)/.exec(await page.getByText(/cell 1 of \d+/).innerText())![1]);
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('b');
  await expect(page.getByText(`cell 2 of ${cells}`)).toBeVisible();
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByRole('button', { name: '0.6 s: the best of its cell' })).toBeVisible();
  await page.keyboard.press('ArrowRight');

  await page.setViewportSize({ width: 390, height: 844 });
  const taps = ['0.6 s', '0.45 s', '0.45 s', '0.3 s', '0.45 s', '0.3 s', '0.3 s', '0.3 s'];
  for (let cell = 1; cell < cells; cell++) {
    await expect(page.getByText(`cell ${cell + 1} of ${cells}`)).toBeVisible();
    await page.getByRole('button', { name: taps[cell % taps.length]!, exact: true }).click();
  }
  await expect(page.getByText(`${cells} / ${cells}`)).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await page.getByRole('link', { name: 'Finding' }).last().click();
  await expect(page.getByRole('heading', { name: 'One value for all' })).toBeVisible();
  await expect(
    page.getByRole('img', { name: /Pressure advance from .* over melt flow/ }),
  ).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await page.getByRole('button', { name: 'Save map and value to ledger' }).click();
  await expect(page.getByText('Saved to the ledger')).toBeVisible();

  // How rows are written is chosen once, and holds wherever they are.
  const rows = page.getByRole('textbox', { name: 'Rows' });
  await expect(rows).toHaveValue(/^0\.\d+, \d+(\.\d)?, \d+\n/);
  await page.getByText('How rows are written').click();
  await page.getByRole('checkbox', { name: /Melt flow/ }).uncheck();
  await page.getByLabel('Between two numbers').selectOption('semicolon');
  await expect(rows).toHaveValue(/^0\.\d+;\d+\n/);
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.getByRole('link', { name: /Heron of maps/ }).click();
  await expect(page.getByRole('heading', { name: 'Map of pressure advance' })).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'Rows' })).toHaveValue(/^0\.\d+;\d+\n/);
  const saved = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Save as CSV' }).click();
  expect((await saved).suggestedFilename()).toMatch(/pressure advance\.csv$/);
  await page.getByRole('button', { name: 'Copy rows' }).click();
  await expect(page.getByText(/Copied|the rows are selected/)).toBeVisible();
});
