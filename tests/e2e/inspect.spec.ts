import { expect, test } from './base';
import { FILAMENTS, MACHINES } from '../../src/core/bench/presets';
import { joinBench } from '../../src/core/bench/bench';
import { planLines } from '../../src/core/gcode/plan-lines';
import { makeLadder } from '../../src/core/ladders/make';
import type { Problem } from '../../src/core/result';
import { newBench, newLadder, openFile } from './people';

/** A file as it comes from elsewhere: two layers of a square, heater left on, a command nobody knows. */
const FOREIGN = [
  '; sliced for a puppet mask',
  '; filament_diameter = 1.75',
  'M140 S60',
  'G28',
  'M109 S205',
  'M83',
  'M204 P700 T900',
  'M201 X1234 Y1200',
  'M999999 Q1',
  'G1 X5 Y5 Z0.2 F6000',
  ...[0.2, 0.4].flatMap((z) => [
    `G0 X60 Y60 Z${z}`,
    'G1 X100 Y60 E1.5 F1800',
    'G1 X100 Y100 E1.5',
    'G1 X60 Y100 E1.5',
    'M106 S200',
    'G1 X60 Y60 E1.5',
  ]),
  'G1 E-3 F2400',
  'M107',
  'M140 S0',
  '',
].join('\n');

test('a file from elsewhere is inspected: findings lead to lines, lines to places', async ({
  page,
}) => {
  await newBench(page, 'Heron', 'Moss');
  await openFile(page, 'mask.gcode', FOREIGN);
  const findings = page.getByLabel('Findings');
  await expect(findings).toContainText('left heating at 205 °C');
  await expect(findings).toContainText('M999999 is unknown');
  await expect(findings).toContainText('printing acceleration stays at 700');
  await findings.getByRole('button', { name: 'line 9:' }).click();
  const text = page.getByLabel('Lines of the file');
  await expect(text.locator('[aria-current=true]')).toContainText('M999999 Q1');

  // From a line to its place: the layer below the cursor is the second now.
  await page.getByRole('radio', { name: 'One layer' }).click();
  await page.getByLabel('Go to layer').fill('1');
  await page.getByLabel('Go to layer').press('Enter');
  await expect(page.getByRole('slider', { name: 'Layer' })).toHaveAttribute(
    'aria-valuetext',
    /^layer 1 of 2/,
  );
  await page.getByLabel('Search in the file').fill('m107');
  await page.getByLabel('Search in the file').press('Enter');
  await expect(text.locator('[aria-current=true]')).toContainText('M107');
  await page.getByLabel('Search in the file').fill('not there');
  await page.getByLabel('Search in the file').press('Enter');
  await expect(page.getByText('no match')).toBeVisible();

  // From the picture to the line: a press on the layer's left side.
  await page.getByLabel('Go to layer').fill('2');
  await page.getByLabel('Go to layer').press('Enter');
  const sheet = page.getByRole('img', { name: /^One layer from above/ });
  const box = (await sheet.boundingBox())!;
  // The square is fitted into the sheet, with some air around it.
  const side = Math.min(box.width, box.height) - 2 * 24;
  await sheet.click({ position: { x: box.width / 2, y: (box.height - side) / 2 + 3 } });
  await expect(text.locator('[aria-current=true]')).toContainText('G1 X60 Y100 E1.5');
  await page.keyboard.press('Tab');

  // Moves are stepped through one by one.
  await page.getByRole('button', { name: 'Next move' }).click();
  await expect(text.locator('[aria-current=true]')).toContainText('G1 X60 Y60 E1.5');
  await page.getByRole('button', { name: 'Previous move' }).click();
  await expect(text.locator('[aria-current=true]')).toContainText('G1 X60 Y100 E1.5');

  await page.getByRole('tab', { name: 'Layers' }).click();
  await expect(page.getByRole('button', { name: /^2 0.4 mm/ })).toBeVisible();
  await page.getByRole('tab', { name: 'By height' }).click();
  await page.getByRole('tab', { name: /^Fan/ }).click();
  await expect(page.getByText('Fan: 3 commands')).toBeVisible();
  await page.getByRole('button', { name: /^line 21/ }).click();
  await expect(text.locator('[aria-current=true]')).toContainText('M106 S200');
});

test(
  'in 3D the view turns with keys, and a press finds the stroke',
  { tag: '@long' },
  async ({ page }) => {
    await openFile(page, 'mask.gcode', FOREIGN);
    const space = page.getByRole('img', { name: /^The moves of the file in 3D/ });
    // Without a graphics unit, and beside other work, space takes long to stand.
    await expect(space).toBeVisible();
    // Its first pictures come one after the other.
    let before = await space.screenshot();
    await expect(async () => {
      const now = await space.screenshot();
      const still = now.equals(before);
      before = now;
      expect(still).toBe(true);
    }).toPass();
    await space.focus();
    for (let i = 0; i < 12; i++) await page.keyboard.press('ArrowUp');
    await expect.poll(async () => before.equals(await space.screenshot())).toBe(false);
    // Seen from straight above, the square's sides cross the middle lines of the picture.
    const box = (await space.boundingBox())!;
    let found = false;
    for (let x = 10; x < box.width && !found; x += 4) {
      await space.click({ position: { x, y: box.height / 2 } });
      // What a press finds is drawn with the next frame.
      await page.evaluate(
        () => new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn))),
      );
      found = await page
        .getByText(/^line \d+/)
        .first()
        .isVisible();
    }
    expect(found).toBe(true);
  },
);

test('a file is kept with its bench, found there again, and put away with a way back', async ({
  page,
}) => {
  await newBench(page, 'Wren', 'Moss');
  await openFile(page, 'puppet hand.gcode', FOREIGN);
  await page.getByRole('button', { name: 'Keep with this bench' }).click();
  await expect(page.getByText('kept with this bench')).toBeVisible();
  await page.getByRole('link', { name: 'Bench', exact: true }).click();
  await page.getByRole('link', { name: /puppet hand.gcode/ }).click();
  await expect(page.getByRole('heading', { name: 'puppet hand.gcode' })).toBeVisible();
  await page.goBack();
  await page.getByRole('button', { name: /^Archive puppet hand/ }).click();
  await expect(page.getByRole('link', { name: /puppet hand.gcode/ })).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('link', { name: /puppet hand.gcode/ })).toBeVisible();
});

test(
  'a ladder made here, found on a card, is recognised and scored where it was never made',
  { tag: '@long' },
  async ({ page }) => {
    const bench = joinBench(
      { ...MACHINES.newt, name: 'Newt of the other workshop' },
      { diameter: 0.4 },
      FILAMENTS.quill,
    );
    const made = makeLadder('temperature', { from: 215, to: 200 }, bench);
    if (!made.ok) throw new Error('not made');
    await openFile(page, 'from-a-card.gcode', made.value.text);
    await expect(
      page.getByText('A ladder made by Ash Ladder, with 4 rungs', { exact: false }),
    ).toBeVisible();
    await page.getByRole('button', { name: 'Score its print' }).click();
    await expect(page.getByText('of 4 from the bottom')).toBeVisible();
    await expect(page.getByText('Newt of the other workshop', { exact: false })).toBeVisible();
    // Opened a second time, it is the same ladder.
    const first = page.url();
    await openFile(page, 'from-a-card.gcode', made.value.text);
    await page.getByRole('button', { name: 'Score its print' }).click();
    await expect(page).toHaveURL(first);
  },
);

test('a plan with inputs that no ladder has is refused with words, and nothing is kept', async ({
  page,
  request,
}) => {
  const bench = joinBench(MACHINES.newt, { diameter: 0.4 }, FILAMENTS.quill);
  const made = makeLadder('temperature', { from: 215, to: 200 }, bench);
  if (!made.ok) throw new Error('not made');
  const name = 'Newt that never was';
  const spoilt = {
    ...made.value.plan,
    bench: { ...bench, machine: { ...bench.machine, name } },
    spec: { ...made.value.plan.spec, from: 'hot' },
  };
  const answer = await request.post('/adopt', { data: Buffer.from(planLines(spoilt).join('\n')) });
  expect(answer.status()).toBe(400);
  const { problems } = (await answer.json()) as { problems: Problem[] };
  expect(problems[0]!.where).toContain('from');
  await page.goto('/things');
  await expect(page.getByText(name)).toBeHidden();
});

test(
  'a bench is taken from a file, thing by thing, and none by itself',
  { tag: '@long' },
  async ({ page }) => {
    await openFile(page, 'mask.gcode', FOREIGN);
    await page.getByRole('tab', { name: 'A bench from it' }).click();
    await expect(page.getByRole('heading', { name: /^A bench: machine/ })).toBeVisible();
    const machine = page.getByLabel('Machine', { exact: true });
    if (await machine.isVisible()) await machine.selectOption('new');
    await expect(page.getByLabel('Bed width, mm')).toHaveValue('220');
    await page.getByRole('button', { name: /^Use: highest acceleration x 1234/ }).click();
    await page.getByRole('button', { name: /^Use: the start block/ }).click();
    await page.getByRole('button', { name: /^Use: bed at 60/ }).click();
    await page.getByLabel('Machine’s name').fill('Heron as it printed');
    await page.getByLabel('Filament’s name').fill('Moss from the file');
    await page.getByRole('button', { name: 'Make this bench' }).click();
    await expect(page.getByRole('combobox', { name: 'Bench' })).toContainText(
      'Heron as it printed',
    );
    await page.goto('/things');
    await page
      .getByRole('link', { name: /Heron as it printed/ })
      .first()
      .click();
    await expect(page.getByLabel('Highest acceleration, x, mm/s²')).toHaveValue('1234');
    await expect(page.getByLabel('Start block')).toHaveValue(/M109 S\{nozzle\}/);

    // And from a pasted report.
    await page.getByText('Take over settings that the machine reports').click();
    await page.getByLabel('Settings report').fill('echo: M203 X18000 Y18000 Z900\necho: M900 K0.4');
    await page.getByRole('button', { name: /^Use: highest speed x 300/ }).click();
    await expect(page.getByLabel('Highest speed, x, mm/s')).toHaveValue('300');
  },
);

test(
  'a large file tells how far it is and can be stopped; one too large is refused',
  { tag: '@long' },
  async ({ page }) => {
    await page.goto('/inspect');
    const line = 'G1 X100.123 Y100.456 E0.12345\n';
    await page.evaluate((text) => {
      const part = text.repeat(40_000);
      const transfer = new DataTransfer();
      transfer.items.add(
        new File(
          Array.from({ length: 60 }, () => part),
          'long.gcode',
        ),
      );
      const input = document.querySelector<HTMLInputElement>('input[type=file]')!;
      input.files = transfer.files;
      input.dispatchEvent(new Event('change', { bubbles: true }));
    }, line);
    await page.getByRole('button', { name: 'Stop' }).click();
    await expect(page.getByText('Drop a G-code file here')).toBeVisible();
    await page.evaluate((text) => {
      const part = text.repeat(400_000);
      const transfer = new DataTransfer();
      transfer.items.add(
        new File(
          Array.from({ length: 20 }, () => part),
          'endless.gcode',
        ),
      );
      const input = document.querySelector<HTMLInputElement>('input[type=file]')!;
      input.files = transfer.files;
      input.dispatchEvent(new Event('change', { bubbles: true }));
    }, line);
    await expect(page.getByText('up to 200 MB can be opened')).toBeVisible();
  },
);

test(
  'from the print screen, the ladder is seen through on a phone as well',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Otter', 'Moss');
    await newLadder(page);
    await page.getByRole('button', { name: 'Generate file' }).click();
    await page.setViewportSize({ width: 390, height: 844 });
    await page.getByRole('link', { name: 'Inspect' }).click();
    await expect(page.getByRole('tab', { name: 'File check' })).toBeVisible();
    await expect(page.getByText('7 of 7 confirmed', { exact: false })).toBeVisible();
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(
      390,
    );
  },
);

test(
  'without WebGL layers are shown one by one, and it is said',
  { tag: '@long' },
  async ({ page }) => {
    await page.addInitScript(() => {
      const real = HTMLCanvasElement.prototype.getContext;
      HTMLCanvasElement.prototype.getContext = function (this: HTMLCanvasElement, kind: string) {
        return kind.startsWith('webgl') ? null : real.call(this, kind as '2d');
      } as typeof real;
    });
    await openFile(page, 'mask.gcode', FOREIGN);
    await expect(page.getByText('This browser can’t show 3D')).toBeVisible();
    await expect(page.getByRole('img', { name: /^One layer from above/ })).toBeVisible();
  },
);

test('a file that is dropped anywhere is opened, also over one that is open', async ({ page }) => {
  await page.goto('/inspect');
  const drop = (name: string, text: string) =>
    page.evaluate(
      ([title, body]) => {
        const data = new DataTransfer();
        data.items.add(new File([body!], title!));
        document.body.dispatchEvent(
          new DragEvent('drop', { bubbles: true, cancelable: true, dataTransfer: data }),
        );
      },
      [name, text],
    );
  await expect(page.getByText('Drop a G-code file here', { exact: false })).toBeVisible();
  // Heard as soon as the page listens.
  await expect(async () => {
    await drop('first.gcode', FOREIGN);
    await expect(page.getByRole('heading', { name: 'first.gcode' })).toBeVisible({ timeout: 5000 });
  }).toPass();
  await drop('second.gcode', 'no G-code at all\n');
  await expect(page.getByRole('heading', { name: 'second.gcode' })).toBeVisible();
  await expect(page.getByText('This is not G-code', { exact: false })).toBeVisible();
});
