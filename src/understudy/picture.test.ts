import { beadArea, filamentFor } from '../core/deposit/bead';
import { benchFor } from '../core/testing';
import { drawPrint, FILAMENT_COLOURS, groundFor, PAPER, SLATE, type PrintPicture } from './picture';
import { printText, type Printed } from './print';
import { drawTruths, type Truths } from './truths';

const bench = benchFor();
const truths: Truths = {
  ...drawTruths(bench, 4),
  feeds: 1,
  sensor: 0,
  bed: { offset: 0, tiltX: 0, tiltY: 0 },
};
const E = filamentFor(1, beadArea(0.45, 0.2), bench.filament.diameter);
const HEAD = 'G28\nM190 S60\nM109 S207\nG90\nM83\n';

/** A wall of ten layers along x, 30 mm long. */
const wall = (() => {
  let text = `${HEAD}G0 X60 Y60 Z0.2 F9000\nG1 E3 F1200\n`;
  for (let layer = 0; layer < 10; layer++) {
    const there = layer % 2 === 0 ? 90 : 60;
    text += `G0 Z${(0.2 * (layer + 1)).toFixed(1)} F600\nG1 X${there} E${(30 * E).toFixed(4)} F1500\n`;
  }
  return printText(text, bench, truths);
})();

/** Greens of the paper under a print, lit and in the shadow of a stroke. */
const GROUNDS = new Set([PAPER[1], Math.round(PAPER[1] * 0.7)]);

const isBack = ({ rgba }: PrintPicture, pixel: number): boolean => rgba[pixel * 4] === 233;
const column = (picture: PrintPicture, x: number) =>
  Math.round((x - picture.left) * picture.pxPerMm);
const row = (picture: PrintPicture, up: number) =>
  picture.height - Math.round((up - picture.bottom) * picture.pxPerMm);

const front = (printed: Printed) =>
  drawPrint(printed, {
    view: 'front',
    frame: { left: 55, right: 95, bottom: 0, top: 4 },
    filament: FILAMENT_COLOURS.lantern,
  });

test('the print stands in its picture where it stands on the bed, to scale', () => {
  const picture = front(wall);
  expect([picture.width, picture.height]).toEqual([800, 80]);
  const at = (x: number, z: number) => row(picture, z) * picture.width + column(picture, x);
  expect(isBack(picture, at(75, 1))).toBe(false);
  expect(isBack(picture, at(75, 2.3))).toBe(true);
  expect(isBack(picture, at(57, 1))).toBe(true);
  expect(isBack(picture, at(93, 1))).toBe(true);
});

test('plastic has the colour of its filament, lit from the side', () => {
  const { rgba, width, height } = front(wall);
  const [r, , b] = FILAMENT_COLOURS.lantern!;
  let warm = 0;
  for (let i = 0; i < width * height; i++) if (rgba[i * 4]! > 1.5 * rgba[i * 4 + 2]!) warm++;
  expect(r).toBeGreaterThan(b);
  expect(warm / (30 * 2 * 400)).toBeGreaterThan(0.85);
});

test('from above, a bead is as wide in its picture as it is', () => {
  const text = `${HEAD}G0 X60 Y60 Z0.2 F9000\nG1 E5 F1200\nG1 X120 E${(60 * E).toFixed(4)} F1200\n`;
  const printed = printText(text, bench, truths);
  const picture = drawPrint(printed, {
    view: 'top',
    frame: { left: 55, right: 125, bottom: 55, top: 65 },
  });
  const x = column(picture, 110);
  let wide = 0;
  for (let y = 0; y < picture.height; y++) {
    const pixel = (y * picture.width + x) * 4;
    if (!GROUNDS.has(picture.rgba[pixel + 1]!)) wide++;
  }
  const n = printed.samples.x.findIndex((at) => at > 110);
  expect(wide / picture.pxPerMm).toBeCloseTo(printed.samples.width[n]!, 0);
  expect(Math.abs(wide / picture.pxPerMm - printed.samples.width[n]!)).toBeLessThan(0.11);
});

test('a thread between two walls is seen, and none where none held', () => {
  const bare = front({ ...wall, threads: [] });
  const thread = (thick: number) =>
    front({
      ...wall,
      threads: [{ from: { x: 57, y: 60 }, to: { x: 94, y: 60 }, z: 3, length: 37, thick }],
    });
  const changed = (picture: PrintPicture) =>
    picture.rgba.reduce((count, value, i) => count + (value !== bare.rgba[i] ? 1 : 0), 0);
  expect(changed(thread(0.05))).toBeGreaterThan(300);
  expect(changed(thread(0))).toBe(0);
});

test('a shiny print is brighter at its brightest than a dull one', () => {
  const brightest = (shine: number) => {
    const printed = { ...wall, samples: { ...wall.samples } };
    printed.samples.shine = wall.samples.shine.map(() => shine);
    const { rgba } = drawPrint(printed, {
      view: 'front',
      frame: { left: 62, right: 88, bottom: 0, top: 1.9 },
      filament: FILAMENT_COLOURS.eel,
    });
    return rgba.reduce((most, value, i) => (i % 4 === 3 ? most : Math.max(most, value)), 0);
  };
  expect(brightest(1)).toBeGreaterThan(brightest(0) + 10);
});

test('a large print is drawn smaller rather than slowly', () => {
  const picture = drawPrint(wall, {
    view: 'top',
    frame: { left: 0, right: 300, bottom: 0, top: 300 },
  });
  expect(picture.width * picture.height).toBeLessThanOrEqual(6_010_000);
  expect(picture.width / picture.pxPerMm).toBeCloseTo(300, 0);
});

test('every filament stands out from the ground that it is seen on', () => {
  const light = ([r, g, b]: readonly number[]) => 0.299 * r! + 0.587 * g! + 0.114 * b!;
  for (const filament of Object.values(FILAMENT_COLOURS)) {
    const ground = groundFor(filament);
    expect([PAPER, SLATE]).toContain(ground);
    expect(Math.abs(light(filament) - light(ground))).toBeGreaterThan(75);
  }
});
