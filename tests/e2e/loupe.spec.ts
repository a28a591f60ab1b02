import { expect, test, type Page } from './base';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { CHROMIUM_FLAGS } from '../../scripts/chromium-flags.mjs';
import { newBench, newLadder, progress, setUp } from './people';

/** What the camera sees: a grey card with a dark square, over and over. */
const folder = mkdtempSync(join(tmpdir(), 'ash-camera-'));
const film = join(folder, 'film.mjpeg');
test.use({
  hasTouch: true,
  launchOptions: {
    executablePath: process.env.ASH_CHROMIUM ?? '/usr/bin/chromium',
    args: [
      ...CHROMIUM_FLAGS,
      '--use-fake-device-for-media-stream',
      '--use-fake-ui-for-media-stream',
      `--use-file-for-fake-video-capture=${film}`,
    ],
  },
});
test.beforeAll(async () => {
  const frame = await sharp({
    create: { width: 640, height: 480, channels: 3, background: '#c8c8c8' },
  })
    .composite([
      {
        input: { create: { width: 200, height: 160, channels: 3, background: '#303030' } },
        left: 220,
        top: 160,
      },
    ])
    .jpeg()
    .toBuffer();
  writeFileSync(film, Buffer.concat(Array.from({ length: 30 }, () => frame)));
});

test.afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** A simulated print of a temperature ladder. @returns its number and where it is scored */
async function simulated(page: Page, machine: string): Promise<{ print: string; read: string }> {
  await newBench(page, machine, `Moss ${machine}`);
  await newLadder(page);
  await page.getByRole('button', { name: 'Generate file' }).click();
  await page.getByRole('button', { name: 'Print on the understudy' }).click();
  await expect(page.getByText('of 7 from the bottom')).toBeVisible();
  const read = page.url();
  const link = page.getByRole('link', { name: 'Measure on a picture' });
  const print = new URL((await link.getAttribute('href'))!, read).searchParams.get('print')!;
  return { print, read };
}

/** Where the drawn print lies in the photo, pixels: it was laid on a table this far from the edges. */
const TABLE = { left: 130, right: 170, top: 90, bottom: 120 };

/** A photo of the simulated print, as if it lay on a table. */
async function photoOf(page: Page, print: string) {
  const png = await (await page.request.get(`/prints/${print}/picture`)).body();
  const { width, height } = await sharp(png).metadata();
  const jpeg = await sharp(png)
    .flatten()
    .extend({ ...TABLE, background: '#e9e5dc' })
    .jpeg({ quality: 92 })
    .toBuffer();
  return { jpeg, width, height };
}

/** A finger laid down, moved and lifted. */
async function pull(page: Page, from: Spot, to: Spot): Promise<void> {
  const finger = await page.context().newCDPSession(page);
  const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', at: Spot[]) =>
    finger.send('Input.dispatchTouchEvent', { type, touchPoints: at });
  await touch('touchStart', [from]);
  for (let step = 1; step <= 4; step++) {
    const share = step / 4;
    await touch('touchMove', [
      { x: from.x + share * (to.x - from.x), y: from.y + share * (to.y - from.y) },
    ]);
  }
  await touch('touchEnd', []);
  await finger.detach();
}
type Spot = { x: number; y: number };

/** The proposed value, as the finding shows it. */
const proposed = (page: Page) =>
  page
    .locator('main p')
    .filter({ hasText: /^\d+ °C$/ })
    .first();

test('a photo is straightened by touch on a phone, tells its numbers, and counts in the finding', async ({
  page,
}) => {
  const { print, read } = await simulated(page, 'Heron loupe');
  // By eye, threads alone: best in the middle.
  await page.keyboard.press('m');
  for (const score of '0143210') await page.keyboard.press(score);
  await page.getByRole('link', { name: 'Finding' }).first().click();
  await expect(proposed(page)).toBeVisible();
  const byEye = await proposed(page).innerText();
  const { jpeg, width, height } = await photoOf(page, print);
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(read);
  await page.getByRole('link', { name: 'Measure on a picture' }).click();
  await expect(page.getByRole('heading', { name: 'Loupe' })).toBeVisible();
  await page
    .getByLabel('Choose a picture')
    .setInputFiles({ name: 'print.jpg', mimeType: 'image/jpeg', buffer: jpeg });
  await expect(page.getByRole('button', { name: 'Picture 1, enlarge' })).toBeVisible();
  await page.getByRole('link', { name: 'picture 1' }).click();
  const picture = page.getByAltText('The picture of the print');
  await expect(picture).toBeVisible();
  const whole = {
    width: width + TABLE.left + TABLE.right,
    height: height + TABLE.top + TABLE.bottom,
  };
  // Pull each mark onto its corner: what is under the finger is shown larger meanwhile.
  const aside = 16;
  const targets = {
    'lower left': { x: TABLE.left + aside, y: TABLE.top + height },
    'lower right': { x: TABLE.left + width - aside, y: TABLE.top + height },
    'upper right': { x: TABLE.left + width - aside, y: TABLE.top },
    'upper left': { x: TABLE.left + aside, y: TABLE.top },
  };
  for (const [name, to] of Object.entries(targets)) {
    const mark = page.getByRole('button', { name: `Corner, ${name}`, exact: false });
    const [box, on] = [(await picture.boundingBox())!, (await mark.boundingBox())!];
    await pull(
      page,
      { x: on.x + on.width / 2, y: on.y + on.height / 2 },
      {
        x: box.x + (to.x / whole.width) * box.width,
        y: box.y + (to.y / whole.height) * box.height,
      },
    );
  }
  // And by a key, a pixel at a time.
  await page.getByRole('button', { name: 'Corner, upper left', exact: false }).press('ArrowDown');
  await page.getByRole('button', { name: 'Straighten and measure' }).click();
  await expect(page.getByText('Measured on this picture')).toBeVisible();
  await expect(page.getByText(/pixels a millimetre/)).toBeVisible();
  const measures = page.getByRole('list', { name: 'Measures' });
  await measures.getByText('Threads').click();
  await expect(page.getByRole('heading', { level: 2 })).toContainText(
    /^(Fewest threads at|Threads: )/,
  );
  await page
    .getByRole('button', { name: /on the picture, enlarge/ })
    .first()
    .click();
  await expect(page.getByRole('img', { name: /on the picture/ })).toBeVisible();
  await page.getByRole('button', { name: 'Close' }).click();
  // It is kept: another visit shows the same, and the corners can be put again.
  await page.reload();
  await expect(page.getByText('Measured on this picture')).toBeVisible();
  await page.getByRole('button', { name: 'Place the corners again' }).click();
  await page.getByRole('button', { name: 'Leave as it was' }).click();
  await expect(page.getByText('Measured on this picture')).toBeVisible();
  // Counted as a reading, without what is left out, it changes the finding.
  const counted = page.getByRole('region', { name: 'Counted' });
  await expect(counted.getByText('Not counted yet')).toBeVisible();
  await counted.getByLabel('Sag').uncheck();
  await counted.getByRole('button', { name: 'Count these as a reading' }).click();
  await expect(counted.getByText('Counted as a reading of its own')).toBeVisible();
  await counted.getByRole('link', { name: 'To the finding' }).click();
  const voices = page.getByRole('region', { name: 'Eye and loupe' });
  await expect(voices).toContainText(byEye.replace(/\s+/g, ' '));
  await expect(voices).toContainText('for stringing');
  await expect(voices).toContainText('They disagree');
  await expect(page.getByText('1 by the loupe', { exact: false })).toBeVisible();
  await expect(proposed(page)).not.toHaveText(byEye);
  // Taken out, the eye is alone again.
  await page.goBack();
  await counted.getByRole('button', { name: 'Take them out' }).click();
  await expect(counted.getByText('Not counted yet')).toBeVisible();
  await page.goto(read);
  await page.getByRole('link', { name: 'Finding' }).first().click();
  await expect(proposed(page)).toHaveText(byEye);
});

test(
  'the drawn picture of a simulated print goes through the same loupe, its corners found',
  { tag: '@long' },
  async ({ page }) => {
    await simulated(page, 'Heron drawn');
    await page.getByRole('link', { name: 'Measure on a picture' }).click();
    await page.getByRole('button', { name: 'Find the corners' }).click();
    await expect(page.getByText('Found by its outline', { exact: false })).toBeVisible();
    await page.getByRole('button', { name: 'Straighten and measure' }).click();
    await expect(page.getByText('Measured on this picture')).toBeVisible();
    await expect(page.getByText('simulated', { exact: false }).first()).toBeVisible();
    // Layers of a simulated print are as high as they were asked for: no rung is said to be better.
    await page.getByRole('list', { name: 'Measures' }).getByText('Layer pitch').click();
    await expect(page.getByRole('heading', { level: 2 })).toHaveText(
      'Layer pitch: alike on every rung',
    );
    // A place is moved by keys, measured there, and put back.
    const mark = page.getByRole('button', { name: 'Place at', exact: false });
    await mark.press('Shift+ArrowRight');
    await page.getByRole('button', { name: 'Measure there' }).click();
    await expect(page.getByRole('button', { name: 'Back to where it was planned' })).toBeVisible();
    await page.getByRole('button', { name: 'Back to where it was planned' }).click();
    await expect(page.getByRole('button', { name: 'Back to where it was planned' })).toBeHidden();
    // A length that is known tells whether the corners are right.
    await page.getByLabel('Check it by a length that you know').check();
    const length = page.getByRole('status', { name: 'Length by the corners' });
    const told = Number((await length.innerText()).split(' ')[0]);
    expect(told).toBeGreaterThan(10);
    await page.getByLabel('Known length').fill(String(told));
    await expect(page.getByText('the corners are right', { exact: false })).toBeVisible();
    await page.getByLabel('Known length').fill(String(2 * told));
    await expect(page.getByText('too short', { exact: false })).toBeVisible();
    // Two rungs side by side.
    await page
      .getByRole('button', { name: /on the picture, enlarge/ })
      .first()
      .click();
    await page.getByLabel('Beside it').selectOption({ index: 2 });
    await expect(page.getByRole('img', { name: / on the picture$/ })).toHaveCount(2);
  },
);

test(
  'cells of a grid stand on its picture, a phone’s own kind is kept, and two sides are told apart',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron of cells', 'Moss of cells');
    await setUp(page, 'temperature and retraction');
    await page.getByLabel('Step, °C').fill('11');
    await page.getByRole('button', { name: 'Generate file' }).click();
    await page.getByRole('button', { name: 'Print on the understudy' }).click();
    await expect(page.getByText('row 1 of 5', { exact: false })).toBeVisible();
    const read = page.url();
    await page.getByRole('button', { name: 'by criterion' }).click();
    for (let row = 0; row < 5; row++)
      for (let column = 0; column < 6; column++)
        await page.keyboard.press(String(Math.min(4, column + (row === 2 ? 1 : 0))));
    await expect(progress(page)).toHaveText('30 / 90');
    const link = page.getByRole('link', { name: 'Measure on a picture' });
    const print = new URL((await link.getAttribute('href'))!, read).searchParams.get('print')!;
    await link.click();
    // The page before has a button of the same name.
    await page.waitForURL(/\/loupe/);
    const { jpeg } = await photoOf(page, print);
    // Somebody who has begun to choose a picture goes on choosing while another comes.
    const choose = await page.getByLabel('Choose a picture').elementHandle();
    const add = async (n: number, name: string, mimeType: string, buffer: Buffer) => {
      await choose.setInputFiles({ name, mimeType, buffer });
      await expect(page.getByRole('button', { name: `Picture ${n}, enlarge` })).toBeVisible();
    };
    // As many phones keep it.
    await add(1, 'four.heic', 'image/heic', readFileSync('src/photo/testing/four.heic'));
    for (const [n, side] of [
      [2, 'front'],
      [3, 'back'],
    ] as const) {
      await add(n, 'print.jpg', 'image/jpeg', jpeg);
      await page.getByRole('link', { name: `picture ${n}` }).click();
      await page.getByRole('radio', { name: side }).check();
      await page.getByRole('button', { name: 'Straighten and measure' }).click();
      await expect(page.getByText('Measured on this picture')).toBeVisible();
    }
    await page.getByRole('list', { name: 'Measures' }).getByText('Gloss').click();
    await expect(
      page.getByText(/^(Front and back shine alike|The back shines (more|less) than the front): /),
    ).toBeVisible();
    await page.goto(read);
    await page.getByRole('button', { name: 'by cell' }).click();
    await expect(page.getByRole('img', { name: / on print 1, picture 2$/ })).toBeVisible();
    await page.getByRole('link', { name: 'Finding' }).first().click();
    const under = page.getByRole('group', { name: 'Shown under the cells' });
    await under.getByRole('button', { name: 'print 1, picture 2' }).click();
    await expect(
      page.getByRole('img', { name: 'The print on print 1, picture 2, straightened' }),
    ).toBeVisible();
    await under.getByRole('button', { name: 'drawing' }).click();
    await expect(page.getByAltText('The ladder from the front, to scale')).toBeVisible();
  },
);

test(
  'a live camera is frozen and its picture kept with the print',
  { tag: '@long' },
  async ({ page }) => {
    await simulated(page, 'Heron camera');
    await page.getByRole('link', { name: 'Measure on a picture' }).click();
    await page.getByRole('button', { name: 'Live camera' }).click();
    const live = page.getByLabel('What the camera sees');
    await expect(live).toBeVisible();
    await expect
      .poll(() => live.evaluate((video) => (video as HTMLVideoElement).videoWidth))
      .toBeGreaterThan(0);
    // The square is 20 mm wide: then the marks tell any length, give or take.
    const box = (await live.boundingBox())!;
    const put = async (which: string, x: number, y: number) => {
      const mark = (await page.getByRole('button', { name: `Ruler, ${which} end` }).boundingBox())!;
      await page.mouse.move(mark.x + mark.width / 2, mark.y + mark.height / 2);
      await page.mouse.down();
      await page.mouse.move(box.x + (x / 640) * box.width, box.y + (y / 480) * box.height, {
        steps: 3,
      });
      await page.mouse.up();
    };
    const length = page.getByRole('status', { name: 'Length between the marks' });
    await put('first', 220, 240);
    await put('second', 420, 240);
    await expect(length).toHaveText('no scale yet');
    await page.getByLabel('Known length').fill('20');
    await page.getByRole('button', { name: 'The marks are that far apart' }).click();
    await expect(length).toHaveText(/^20 ± 0[.]\d+ mm$/);
    await put('second', 220, 320);
    await expect(length).toHaveText(/^(7[.]9|8|8[.]0)\d* ± 0[.]\d+ mm$/);
    await page.getByLabel('Grid', { exact: false }).check();
    await page.getByRole('button', { name: 'Freeze' }).click();
    await expect(page.getByRole('img', { name: 'The frozen picture' })).toBeVisible();
    await page.getByRole('button', { name: 'Live again' }).click();
    await page.getByRole('button', { name: 'Freeze' }).click();
    await page.getByLabel('It shows').selectOption({ label: '215 °C' });
    await page.getByRole('button', { name: 'Keep it' }).click();
    await expect(
      page.getByRole('button', { name: /^Picture 1 of rung \d, enlarge$/ }),
    ).toBeVisible();
  },
);
