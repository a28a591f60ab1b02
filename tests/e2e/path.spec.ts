import { expect, test } from './base';
import { readFileSync } from 'node:fs';
import { audit } from '../../src/core/gcode/audit';
import { readText } from '../../src/core/gcode/read';
import { askedFor } from '../../src/core/gcode/asked';
import { parsePlan } from '../../src/core/plan/plan';
import { newBench, newLadder, printIt, progress } from './people';

test('from a new bench to a value in the ledger', async ({ page }) => {
  await newBench(page, 'Heron', 'Moss');
  await expect(page.getByText('after temperature').first()).toBeVisible();
  await newLadder(page);
  // A step that is not there yet says what comes first.
  await page.getByRole('button', { name: 'Finding', exact: true }).click();
  await expect(page.getByText('First print it and score its rungs.')).toBeVisible();

  // The label says 190 to 220: seven rungs. Typing answers, a step that does not divide is told with mends.
  await expect(page.getByRole('button', { name: /^220 °C/ })).toBeVisible();
  await page.getByLabel('Step, °C').fill('4');
  await expect(page.getByText('Steps of 4 do not fit')).toBeVisible();
  await page.getByRole('button', { name: 'End at 192' }).click();
  await expect(page.getByRole('button', { name: /^192 °C/ })).toBeVisible();
  await page.getByLabel('Bottom, °C').fill('330');
  await expect(
    page.getByText('The hot end of Heron is rated for 260 °C', { exact: false }),
  ).toBeVisible();
  await page.getByLabel('Bottom, °C').fill('220');
  await page.getByLabel('Top, °C').fill('190');
  await page.getByLabel('Step, °C').fill('5');
  await expect(page.getByRole('button', { name: /^205 °C/ })).toBeVisible();

  // Any layer can be looked at, with the command that sets its rung.
  await page.getByRole('button', { name: /^205 °C/ }).click();
  await expect(page.getByLabel('Lines of this layer')).toContainText('M104 S205');
  await page.getByRole('button', { name: 'Close' }).click();

  // What was typed is there when the page is opened again.
  await page.reload();
  await expect(page.getByLabel('Bottom, °C')).toHaveValue('220');

  await page.getByRole('button', { name: 'Generate file' }).click();
  await expect(page.getByText('7 of 7 confirmed', { exact: false })).toBeVisible();
  const downloading = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download' }).click();
  const download = await downloading;
  expect(download.suggestedFilename()).toBe('heron-0.4-moss_temperature_220-190-by-5.gcode');
  const trace = readText(readFileSync(await download.path(), 'utf8'));
  const plan = parsePlan(trace.planText!);
  if (!plan.ok) throw new Error('the downloaded file carries no plan');
  const audited = audit(trace, plan.value.bench, askedFor(plan.value));
  expect(audited.findings).toEqual([]);
  expect(audited.rungs.map(({ seen }) => seen)).toEqual([
    [220],
    [215],
    [210],
    [205],
    [200],
    [195],
    [190],
  ]);

  // At the bench with a phone: all stringing and layer adhesion is scored with a thumb.
  await page.setViewportSize({ width: 390, height: 844 });
  await page.getByRole('button', { name: 'Printed: score it' }).click();
  await page.getByRole('button', { name: 'by criterion' }).click();
  const scores = { stringing: [0, 1, 2, 3, 4, 4, 4], 'layer adhesion': [4, 4, 4, 4, 3, 1, 0] };
  const values = [220, 215, 210, 205, 200, 195, 190];
  for (const [name, list] of Object.entries(scores)) {
    for (const [i, score] of list.entries()) {
      const keys = page.getByRole('group', { name: `${name} at ${values[i]} °C` });
      await keys.getByRole('button', { name: new RegExp(`^${score} `) }).click();
    }
    if (name === 'stringing')
      // After the last rung the next criterion is there by itself.
      for (let i = 0; i < 4; i++) await page.getByRole('button', { name: 'Next' }).click();
  }
  await expect(progress(page)).toHaveText('14 / 42');
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);

  // A slip is changed, another undone; left and opened again, everything is there.
  const last = page.getByRole('button', { name: 'layer adhesion at 190 °C: 0' });
  await last.click();
  await page.getByRole('button', { name: '3 good' }).click();
  await expect(last).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(last).toBeVisible();
  await page.reload();
  await expect(progress(page)).toHaveText('14 / 42');
  await expect(last).toBeVisible();

  await page.setViewportSize({ width: 1280, height: 800 });
  await page.getByRole('link', { name: 'See the finding' }).click();
  await expect(page.getByText('Proposed')).toBeVisible();
  await expect(page.getByText('Most likely between')).toBeVisible();
  await expect(page.getByRole('img', { name: /^Looks best near/ })).toBeVisible();
  const proposed = Number.parseInt(await page.locator('p.text-7xl').innerText());
  expect(proposed).toBeGreaterThanOrEqual(200);
  expect(proposed).toBeLessThanOrEqual(208);
  await page.getByRole('button', { name: 'Save to ledger' }).click();
  await expect(page.getByText('Saved to the ledger.')).toBeVisible();
  await expect(page.getByText(`M104 S${proposed}`)).toBeVisible();

  await page.getByRole('link', { name: 'Next: first layer' }).click();
  await expect(page.getByRole('listitem').filter({ hasText: 'Temperature' }).first()).toContainText(
    `${proposed} °C`,
  );
  // The lowest open rung of the route is what is asked for next.
  await expect(page.getByRole('button', { name: /^First layer/, expanded: true })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Set up this ladder' })).toBeVisible();

  // Taking it back opens the rung again.
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('heading', { name: 'Values and their history' })).toBeHidden();
});

test('a best at the last rung offers the next ladder, moved, with one press', async ({ page }) => {
  await newBench(page, 'Newt', 'Quill');
  await newLadder(page);
  await page.getByRole('button', { name: 'Generate file' }).click();
  await page.getByRole('button', { name: 'Printed: score it' }).click();
  await page.getByRole('button', { name: 'by criterion' }).click();
  await expect(page.getByText('1 of 6')).toBeVisible();
  for (const score of '0011234') await page.keyboard.press(score);
  await page.getByRole('link', { name: 'Finding' }).first().click();
  await expect(page.getByText('Print another ladder, beyond this one')).toBeVisible();
  await page.getByRole('button', { name: 'Set up this ladder' }).click();
  await expect(page.getByLabel('Bottom, °C')).toHaveValue('195');
  await expect(page.getByText('leaves the label range')).toBeVisible();
});

test('scores that are all alike propose nothing', { tag: '@long' }, async ({ page }) => {
  await newBench(page, 'Wren', 'Brine');
  await newLadder(page);
  await page.getByRole('button', { name: 'Generate file' }).click();
  await page.getByRole('button', { name: 'Printed: score it' }).click();
  await expect(page.getByText('from the bottom')).toBeVisible();
  await page.keyboard.press('m');
  for (const score of '3333333') await page.keyboard.press(score);
  await page.getByRole('link', { name: 'Finding' }).first().click();
  await expect(page.getByText('This setting is not what causes it')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save to ledger' })).toBeHidden();
});

test(
  'a part of a page that cannot be loaded is said in its place, and nothing else depends on it',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron parts', 'Moss parts');
    await newLadder(page);
    await printIt(page);
    await page.getByRole('button', { name: 'by criterion' }).click();
    for (const score of '1234321') await page.keyboard.press(score);
    // The drawing of the print is made in a thread: until it comes its place says so, and also where it does not come.
    let come = () => {};
    const made = new Promise<void>((done) => (come = done));
    await page.route('**/files/*/picture', (route) => made.then(() => route.abort()));
    await page.reload({ waitUntil: 'commit' });
    await expect(page.getByText('Being drawn …').first()).toBeVisible();
    come();
    await expect(
      page.getByRole('button', { name: /^The picture did not come/ }).first(),
    ).toBeVisible();
    await page.unroute('**/files/*/picture');
    await page
      .getByRole('button', { name: /^The picture did not come/ })
      .first()
      .click();
    await expect(page.getByRole('button', { name: /^The picture did not come/ })).toBeHidden();
    await expect(page.getByAltText('The ladder from the front, to scale').first()).toBeVisible();
    const finding = page.getByRole('link', { name: 'Finding' }).first();
    const href = (await finding.getAttribute('href'))!;
    // Charts are a chunk of their own: it never comes.
    await page.route('**/_next/static/chunks/*.js', async (route) => {
      const answer = await route.fetch();
      const body = await answer.text();
      if (body.includes('ecModel')) return route.abort();
      return route.fulfill({ response: answer, body });
    });
    await page.goto(href);
    await expect(page.getByText('The curve could not be loaded.', { exact: false })).toBeVisible();
    await expect(page.getByRole('button', { name: /^Save to ledger/ })).toBeVisible();
    await page.unroute('**/_next/static/chunks/*.js');
    await page.getByRole('button', { name: 'Try again' }).click();
    await expect(page.getByRole('img', { name: /^Looks best near/ })).toBeVisible();
    await expect(page.getByText('The curve could not be loaded.', { exact: false })).toBeHidden();
  },
);
