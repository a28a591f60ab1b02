import { expect, test } from './base';
import { newBench, newLadder, printIt, progress } from './people';

test('a whole tower is scored with the keyboard in well under a minute', async ({ page }) => {
  await newBench(page, 'Otter', 'Lantern keys');
  await newLadder(page);
  await printIt(page);
  const started = Date.now();
  for (let rung = 0; rung < 7; rung++)
    for (const score of [rung, 3, 3, 2, 4, 6 - rung])
      await page.keyboard.press(String(Math.min(4, score)));
  await expect(progress(page)).toHaveText('42 / 42');
  expect(Date.now() - started).toBeLessThan(60_000);

  // Back down, a score changed, "can't tell" said, both undone.
  await page.keyboard.press('ArrowDown');
  await expect(page.getByText('rung 6 of 7 from the bottom')).toBeVisible();
  await page.keyboard.press('x');
  await page.keyboard.press('u');
  await page.keyboard.press('m');
  await expect(page.getByRole('button', { name: 'by criterion' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
});

test(
  'inputs of the designer step with the arrow keys, and everything is reached by tab',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron two', 'Moss keys');
    await newLadder(page);
    const foot = page.getByLabel('Bottom, °C');
    await foot.focus();
    await page.keyboard.press('ArrowDown');
    await expect(foot).toHaveValue('215');
    await page.keyboard.press('Tab');
    await expect(page.getByLabel('Top, °C')).toBeFocused();
    const make = page.getByRole('button', { name: 'Generate file' });
    for (let i = 0; i < 30 && !(await make.evaluate((one) => one === document.activeElement)); i++)
      await page.keyboard.press('Tab');
    await expect(make).toBeFocused();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('heading', { name: 'Ready to print' })).toBeVisible();
  },
);
