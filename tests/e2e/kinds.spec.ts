/** One whole path through the interface for each manner of ladder, and the route from first layer to the last. */

import { expect, test, type Page } from './base';
import { newBench, setUp } from './people';

/** What starting points are called. */
const LIKE = { otter: /Two nozzles/, newt: /round bed/, wren: /Fast/ };

/** A bench from another starting point than the first. */
async function benchFrom(page: Page, preset: keyof typeof LIKE, machine: string, filament: string) {
  await page.goto('/bench/new');
  const machines = page.getByLabel('Machine', { exact: true });
  if (await machines.isVisible()) await machines.selectOption('new');
  const filaments = page.getByLabel('Filament', { exact: true });
  if (await filaments.isVisible()) await filaments.selectOption('new');
  await page.getByRole('radio', { name: LIKE[preset] }).check({ force: true });
  await page.getByLabel('Machine’s name').fill(machine);
  await page.getByLabel('Filament’s name').fill(filament);
  await page.getByRole('button', { name: 'Make this bench' }).click();
  await expect(page.getByRole('combobox', { name: 'Bench' })).toContainText(machine);
}

/** Makes the file and says that it was printed. */
async function print(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Generate file' }).click();
  await expect(page.getByRole('heading', { name: 'Ready to print' })).toBeVisible();
  await page.getByRole('button', { name: 'Printed: score it' }).click();
  await expect(page).toHaveURL(/\/read/);
}

/** Scores the first criterion over all rungs with the keyboard, and goes to the finding. */
async function scoreFirst(page: Page, scores: string): Promise<void> {
  await page.getByRole('button', { name: 'by criterion' }).click();
  await expect(page.getByText(/^1 of \d+$/)).toBeVisible();
  for (const score of scores) await page.keyboard.press(score);
  await page.getByRole('link', { name: 'Finding' }).first().click();
  await expect(page.getByText('Proposed')).toBeVisible();
}

const proposed = (page: Page) => page.locator('p.text-7xl');

async function put(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Save to ledger' }).click();
  await expect(page.getByText('Saved to the ledger.')).toBeVisible();
}

test('posts: the least retraction that is clean', async ({ page }) => {
  await newBench(page, 'Heron tower', 'Moss tower');
  await setUp(page, 'retraction distance');
  await expect(page.getByRole('button', { name: /^8 mm/ })).toBeVisible();
  await page.getByLabel('Rear, mm').fill('12');
  await expect(page.getByText('melt is drawn into the cold zone', { exact: false })).toBeVisible();
  await page.getByLabel('Rear, mm').fill('8');
  await expect(page.getByText('melt is drawn into', { exact: false })).toBeHidden();
  await print(page);
  await scoreFirst(page, '0013444');
  expect(Number.parseFloat(await proposed(page).innerText())).toBeGreaterThanOrEqual(4);
  expect(Number.parseFloat(await proposed(page).innerText())).toBeLessThanOrEqual(6);
  await expect(page.getByText('The least that is clean', { exact: false })).toBeVisible();
  await put(page);
  await expect(
    page.getByText('as retraction distance of Moss tower', { exact: false }),
  ).toBeVisible();
});

test(
  'hairpins: pressure advance with its test conditions and the line that carries it',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron hairpins', 'Moss hairpins');
    await setUp(page, 'pressure advance by hairpins');
    await expect(page.getByText('Numbers on the print are in ms', { exact: false })).toBeVisible();
    const held = page.getByLabel('Test conditions');
    await expect(held).toContainText('jerk 5 mm/s then 8 mm/s again');
    await expect(page.getByRole('img', { name: 'The ladder from above, to scale' })).toBeVisible();
    await page.getByLabel('Fast, mm/s').fill('25');
    await expect(page.getByText('the pressure hardly changes', { exact: false })).toBeVisible();
    await page.getByLabel('Fast, mm/s').fill('50');
    await print(page);
    await scoreFirst(page, '001122334433221100000');
    const value = Number.parseFloat(await proposed(page).innerText());
    expect(value).toBeGreaterThan(0.3);
    expect(value).toBeLessThan(0.6);
    await put(page);
    await expect(page.getByText(`M900 K${value}`)).toBeVisible();
    await expect(page.getByText('M500')).toBeVisible();
  },
);

test('patches: the first layer, never into the bed, on a phone', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await newBench(page, 'Heron patches', 'Moss patches');
  await setUp(page, 'first layer');
  await page.getByLabel('Last, lowest, mm').fill('-0.15');
  await expect(page.getByText('over where it touches the bed', { exact: false })).toBeVisible();
  await page.getByLabel('Last, lowest, mm').fill('-0.1');
  await page.getByLabel('Places').selectOption('the middle and four corners');
  await expect(page.getByText('over where it touches', { exact: false })).toBeHidden();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await print(page);
  await scoreFirst(page, '00013431000');
  expect(Math.abs(Number.parseFloat(await proposed(page).innerText()))).toBeLessThan(0.06);
  await put(page);
  await expect(page.getByText('z offset of Heron patches', { exact: false })).toBeVisible();
  // Once it is in the machine itself, files add it no more; the bench knows it.
  const kept = page.waitForResponse((got) => got.request().headers()['next-action'] !== undefined);
  await page.getByLabel('It is in the machine now').check();
  await kept;
  await page.reload();
  await expect(page.getByLabel('It is in the machine now')).toBeChecked();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});

test(
  'a formula: flow from four walls, and walls that contradict each other',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron formula', 'Moss formula');
    await setUp(page, 'flow by a wall');
    await print(page);
    const wall = (i: number) => page.getByLabel(`Wall, ${i}, mm`);
    for (const [i, thick] of ['0.48', '0.47', '0.55', '0,47'].entries())
      await wall(i + 1).fill(thick);
    await expect(page.getByText('% apart')).toBeVisible();
    await page.getByRole('link', { name: 'See the finding' }).click();
    await expect(page.getByText('The sides differ by', { exact: false })).toBeVisible();
    await page.getByRole('link', { name: 'Continue scoring' }).click();
    await expect(wall(1)).toHaveValue('0.48');
    await wall(3).fill('0.48');
    await page.getByRole('link', { name: 'See the finding' }).click();
    await expect(proposed(page)).toContainText('0.95');
    await expect(
      page.getByText('0.45 mm were asked for and 0.475 mm measured', { exact: false }),
    ).toBeVisible();
    await put(page);
    await page.getByRole('link', { name: /Heron formula · 0.4 mm/ }).click();
    await expect(page.getByRole('listitem').filter({ hasText: /^Flow/ }).first()).toContainText(
      '0.95',
    );
    // What was found is what the next ladder is printed with.
    await setUp(page, 'flow by a wall');
    await expect(page.getByLabel('Flow in force, ×')).toHaveValue('0.95');
  },
);

test(
  'the route of a new bench, from first layer to the vernier of its second nozzle',
  { tag: '@long' },
  async ({ page }) => {
    await benchFrom(page, 'otter', 'Otter route', 'Moss route');
    const route = page.getByLabel('Route, last first');
    const titles = await route.getByRole('listitem').allInnerTexts();
    expect(titles.map((text) => text.split('\n')[0])).toEqual([
      'Nozzle alignment',
      'Overhang',
      'Bridge flow',
      'Map of pressure advance',
      'Cornering by junction deviation',
      'Acceleration',
      'Pressure advance',
      'Retraction distance',
      'Flow',
      'Melt flow',
      'Temperature',
      'Extruder steps',
      'First layer',
    ]);
    const next = page.locator('aside p.text-3xl').first();
    await expect(next).toHaveText('First layer');
    await page.getByRole('button', { name: 'Set up this ladder' }).click();
    await print(page);
    await scoreFirst(page, '00013431000');
    await put(page);
    await page.getByRole('link', { name: /Otter route · 0.4 mm/ }).click();

    await expect(next).toHaveText('Extruder steps');
    await page.getByRole('button', { name: 'Set up this ladder' }).click();
    await page.getByLabel('Value in the machine now, steps/mm').fill('400');
    await print(page);
    await page.getByLabel('Distance left to the mark, 1, mm').fill('24');
    await page.getByLabel('Distance left to the mark, 2, mm').fill('24.5');
    await page.getByRole('link', { name: 'See the finding' }).click();
    await expect(proposed(page)).toContainText('417.8');
    await put(page);
    await expect(page.getByText('M92 E417.8')).toBeVisible();
    await page.getByRole('link', { name: /Otter route · 0.4 mm/ }).click();
    await expect(next).toHaveText('Temperature');

    await setUp(page, 'nozzle alignment');
    await print(page);
    const x = page.getByRole('group', { name: 'Pair in x that reads as one line' });
    const y = page.getByRole('group', { name: 'Pair in y that reads as one line' });
    await x.getByRole('button', { name: '0.2', exact: true }).click();
    await x.getByRole('button', { name: '0.3', exact: true }).click();
    await y.getByRole('button', { name: '-0.1', exact: true }).click();
    await page.getByRole('link', { name: 'See the finding' }).click();
    await expect(proposed(page)).toContainText('0.25');
    await expect(page.getByText('second nozzle in y', { exact: false })).toBeVisible();
    await put(page);
    await page.getByRole('link', { name: /Otter route · 0.4 mm/ }).click();
    await expect(
      page.getByRole('listitem').filter({ hasText: 'Nozzle alignment' }).first(),
    ).toContainText('0.25 mm');
  },
);

test(
  'a flat pattern printed on the understudy is measured by it as well',
  { tag: '@long' },
  async ({ page }) => {
    await benchFrom(page, 'otter', 'Otter vernier', 'Moss vernier');
    await setUp(page, 'nozzle alignment');
    await page.getByRole('button', { name: 'Generate file' }).click();
    await page.getByRole('button', { name: 'Print on the understudy' }).click();
    await expect(page.getByText('Simulated on', { exact: false }).first()).toBeVisible();
    await page.getByRole('link', { name: 'See the finding' }).click();
    await expect(page.getByText('Proposed')).toBeVisible();
    await expect(page.getByRole('button', { name: 'Save to ledger, as simulated' })).toBeVisible();
  },
);
