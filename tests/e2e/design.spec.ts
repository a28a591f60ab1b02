import { expect, test, type Page } from './base';
import { newBench, setUp } from './people';

const rungs = (page: Page) => page.getByRole('list', { name: 'Rungs, lowest first' });
const figures = (page: Page) => page.locator('dl').first();

test('typing redraws the form at once; figures and commands of the proved file follow', async ({
  page,
}) => {
  await newBench(page, 'Heron typing', 'Moss typing');
  await setUp(page, 'temperature');
  await expect(rungs(page)).toContainText('M104 S220');
  await expect(figures(page)).toHaveAttribute('aria-busy', 'false');
  const before = await figures(page).innerText();
  await page.getByLabel('Rung height, mm').fill('14');
  // The drawing has its new rungs before their commands are known.
  await expect(rungs(page).locator('li').first()).toHaveAttribute('style', /height: calc\(14 \*/);
  await expect(figures(page)).toHaveAttribute('aria-busy', 'false');
  expect(await figures(page).innerText()).not.toBe(before);
  await expect(rungs(page)).toContainText('M104 S220');
});

test(
  'fast typing ends with the last wish drawn, and a wrong one in between is forgotten',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron hasty', 'Moss hasty');
    await setUp(page, 'temperature');
    const height = page.getByLabel('Rung height, mm');
    for (const mm of ['9', '12', '1', '16', '8', '11']) await height.fill(mm);
    await expect(rungs(page).locator('li').first()).toHaveAttribute('style', /height: calc\(11 \*/);
    await expect(figures(page)).toHaveAttribute('aria-busy', 'false');
    await expect(page.getByLabel('Can’t be made')).toBeHidden();
    await page.reload();
    await expect(height).toHaveValue('11');
  },
);

test(
  'patches that have no room are stopped, and one press mends it',
  { tag: '@long' },
  async ({ page }) => {
    await page.setViewportSize({ width: 390, height: 844 });
    await newBench(page, 'Heron crowded', 'Moss crowded');
    await setUp(page, 'first layer');
    await page.getByLabel('Side of a patch, mm').fill('17');
    await expect(page.getByText('have no room on this bed', { exact: false })).toBeVisible();
    await page.getByRole('button', { name: 'Steps of 0.05 mm' }).click();
    await expect(page.getByText('have no room on this bed', { exact: false })).toBeHidden();
    await page.getByLabel('Places').selectOption('the whole bed');
    await expect(page.getByText('would lie over each other', { exact: false })).toBeVisible();
    await page.getByRole('button', { name: 'Middle and corners' }).click();
    await expect(page.getByText('would lie over each other', { exact: false })).toBeHidden();
    await expect(page.getByLabel('Places')).toHaveValue('1');
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(
      390,
    );
  },
);

test('the corners of a machine and what it bears decide which ladders it is offered', async ({
  page,
}) => {
  await newBench(page, 'Heron offered', 'Moss offered');
  const route = page.getByRole('list', { name: 'Route, last first' });
  const rung = (title: string) => route.getByRole('button', { name: new RegExp(`^${title}`) });
  await expect(rung('Cornering by jerk')).toBeVisible();
  await expect(rung('Cornering by square-corner speed')).toHaveCount(0);
  await expect(rung('Nozzle alignment')).toHaveCount(0);
  // Pressed, or walked to with the arrow keys and opened, a rung shows its ladders with what they cost, and shuts again.
  await rung('Acceleration').focus();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  const opened = route.getByRole('listitem').filter({ hasText: 'Cornering by jerk' });
  await expect(opened.getByText(/\d+ rungs · \d+ min · [\d.]+ g/)).toBeVisible();
  await page.reload();
  await expect(opened.getByRole('button', { name: 'New cornering by jerk ladder' })).toBeVisible();
  // Looked at only, it is on no list afterwards.
  await opened.getByRole('button', { name: 'New cornering by jerk ladder' }).click();
  await expect(page.locator('canvas').first()).toBeVisible();
  await page.goBack();
  await expect(rung('Cornering by jerk')).toBeVisible();
  await expect(page.getByText('a ladder is set up')).toHaveCount(0);
  await rung('Cornering by jerk').click();
  await expect(opened.getByText('rungs ·', { exact: false })).toHaveCount(0);
  await setUp(page, 'acceleration');
  await page.getByLabel('Faces').selectOption('x alone');
  await expect(rungs(page)).toContainText('M204');
  await page.getByLabel('Top, mm/s²').fill('9000');
  await expect(page.getByLabel('Can’t be made').first()).toBeVisible();
});

test(
  'inputs say what they cost, and a long ladder offers what saves most',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron costs', 'Moss costs');
    await setUp(page, 'overhang');
    const told = page.getByText('what that depends on', { exact: false });
    await expect(told).toBeVisible();
    await told.click();
    await expect(page.getByRole('list', { name: 'What each input costs' })).toContainText(
      /Walls \+1\s+\+[\d.]+ min a rung/,
    );
    await expect(page.getByText('This ladder is long.')).toBeHidden();
    await page.getByLabel('Height of a lean, mm').fill('20');
    await page.getByLabel('Wall speed, mm/s').fill('10');
    await expect(page.getByText('This ladder is long.')).toBeVisible();
    const before = Number.parseInt(await figures(page).locator('dd').first().innerText(), 10);
    await page.getByText('This ladder is long.').getByRole('button').click();
    await expect
      .poll(async () => Number.parseInt(await figures(page).locator('dd').first().innerText(), 10))
      .toBeLessThan(before);
  },
);
