import { expect, test } from './base';
import { rectangle, SECTIONS, slice, towerOf } from '../../src/core/graft/testing/slicer';
import { seeded } from '../../src/core/random';
import { newBench, openFile } from './people';

/** A post with six storeys, as somebody's slicer wrote it: it changes its temperature on the way. */
const POST = slice(
  towerOf(
    { base: 1.4, section: 6, count: 6, cap: 2 },
    SECTIONS.window!(0.6, seeded(3)),
    [rectangle(-4, -5, 42, 22)],
    () => [rectangle(4, 2, 14, 8)],
  ),
  { infill: 0, retraction: 5, meddles: [14], accelerations: true },
);

test('a sliced file becomes a ladder, is printed, scored and found, and serves another bench', async ({
  page,
}) => {
  await newBench(page, 'Wren graft', 'Brine graft');
  await newBench(page, 'Heron graft', 'Moss graft');
  await openFile(page, 'lantern post.gcode', POST);
  await page.getByRole('button', { name: 'Make a ladder of it' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    /^Six sections of 6(\.0\d)? mm on a base of 1\.4 mm$/,
  );

  // A line is moved with the mouse, and with keys; then it is set by hand.
  const third = page.getByRole('slider', { name: 'Section 3 begins at' });
  const at = async () => Number(await third.getAttribute('aria-valuenow'));
  const before = await at();
  const box = (await third.boundingBox())!;
  await page.mouse.move(box.x + 40, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 40, box.y + box.height / 2 - 12, { steps: 4 });
  await page.mouse.up();
  expect(await at()).toBeGreaterThan(before);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Six sections, set by hand');
  const dragged = await at();
  await third.press('ArrowDown');
  expect(await at()).toBeCloseTo(dragged - 0.2, 2);

  // What the file sets itself is named, with what is done about it.
  const inWay = page.getByRole('region', { name: 'In the way of this test' });
  await expect(inWay).toContainText('Its own temperature');
  await expect(page.getByLabel('What to do about: Its own temperature')).toHaveValue('lift');
  await page.getByLabel('What to do about: Its own acceleration').selectOption('hold');
  await page.getByLabel('At the bottom, °C').fill('225');
  await page.getByLabel('At the top, °C').fill('200');
  await expect(page.getByText('225, 220, 215, 210, 205, 200 °C')).toBeVisible();
  await page.getByRole('button', { name: 'Generate file' }).click();
  await expect(page.getByRole('heading', { name: 'Ready to print' })).toBeVisible();
  await expect(page.getByText('✓ line', { exact: false })).toHaveCount(6);
  const ladder = page.url();

  await page.getByRole('button', { name: 'Print on the understudy' }).click();
  await expect(page).toHaveURL(/read/);
  await page.getByRole('button', { name: 'by criterion' }).click();
  await expect(page.getByText('1 of 6')).toBeVisible();
  for (const score of '012442') await page.keyboard.press(score);
  await page.getByRole('link', { name: 'Finding' }).first().click();
  await expect(page.getByText('Proposed nozzle temperature')).toBeVisible();
  await page.getByRole('button', { name: 'Save to ledger, as simulated' }).click();
  await expect(page.getByText('Saved to the ledger, as simulated.')).toBeVisible();

  // The next ladder is the same file over another range; the same model for another bench is one press.
  await page.getByRole('button', { name: 'Set up this ladder' }).click();
  await expect(page.getByRole('slider')).toHaveCount(6);
  await expect(page.getByLabel('At the bottom, °C')).not.toHaveValue('225');
  await page.goto(ladder);
  await page.getByRole('button', { name: 'Wren graft', exact: false }).first().click();
  await expect(page).toHaveURL(/\/graft\/\d+\?ladder=/);
  await expect(page.getByText('Wren graft', { exact: false }).first()).toBeVisible();
  await page.getByRole('button', { name: 'Generate file' }).click();
  await expect(page.getByRole('heading', { name: 'Ready to print' })).toBeVisible();
});

test(
  'a plain form has no sections: they are set by hand, on a phone, by a table',
  { tag: '@long' },
  async ({ page }) => {
    await page.setViewportSize({ width: 390, height: 844 });
    await newBench(page, 'Heron plain', 'Moss plain');
    const box = { height: 24, at: () => [rectangle(0, 0, 30, 20)] };
    await openFile(page, 'plain box.gcode', slice(box, { infill: 0 }));
    await page.getByRole('button', { name: 'Make a ladder of it' }).click();
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(
      'No sections found: set them yourself',
    );
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(
      390,
    );
    await page.getByLabel('Several, by a table').check();
    await page
      .getByRole('textbox', { name: 'Table' })
      .fill('height,nozzle,fan\n2,220,0.2\n9,210,\n16,hot,1\n');
    await expect(page.getByText('"hot" is not a number', { exact: false })).toBeVisible();
    await page
      .getByRole('textbox', { name: 'Table' })
      .fill('height,nozzle,fan\n2,220,0.2\n9,210,\n16,200,1\n');
    await expect(page.getByText('"hot" is not a number', { exact: false })).toBeHidden();
    await expect(page.getByRole('slider')).toHaveCount(3);
    await page.getByRole('button', { name: 'Generate file' }).click();
    await expect(page.getByRole('heading', { name: 'Ready to print' })).toBeVisible();
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(
      390,
    );
  },
);
