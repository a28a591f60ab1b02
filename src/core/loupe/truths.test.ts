/** What the loupe reads off made-up prints in many colours, against the numbers that they were made with. */

import { mean } from '../numbers';
import { benchFor, makeOn } from '../testing';
import { lookAt } from './loupe';
import type { MeasureName } from './measures';
import { asJpeg } from './testing/jpeg';
import { rankCorrelation } from './testing/ranks';
import {
  bulging,
  dropped,
  echoing,
  layered,
  patched,
  strung,
  stroked,
  styleFor,
  vernier,
  type Known,
} from './testing/truths';

jest.setTimeout(60_000);

const tower = makeOn(benchFor('heron'), 'temperature').plan;
const walls = makeOn(benchFor('heron'), 'acceleration').plan;

async function against({ photo, plan, corners, truth }: Known, name: MeasureName) {
  const { measures } = lookAt(await asJpeg(photo), plan, { corners, measures: [name] });
  const told = measures.filter((one) => one.told);
  return {
    told,
    all: measures.length,
    off: told.map(({ value, rung }) => value - truth[rung]!),
    order: rankCorrelation(
      told.map(({ value }) => value),
      told.map(({ rung }) => truth[rung]!),
    ),
    holds: mean(
      told.map(({ value, spread, rung }) => Number(Math.abs(value - truth[rung]!) <= spread)),
    ),
  };
}
const most = (off: readonly number[]) => Math.max(...off.map(Math.abs));

test('widths of strokes, light on dark and dark on light', async () => {
  for (const seed of [1, 2]) {
    const { told, all, off, order } = await against(
      stroked(tower, seed, {}, styleFor(seed)),
      'width',
    );
    expect(told).toHaveLength(all);
    expect(most(off)).toBeLessThan(0.1);
    expect(order).toBeGreaterThan(0.95);
  }
});

long('gaps of patches, where at least one of them is closed', async () => {
  for (const seed of [3]) {
    const known = patched(tower, seed);
    expect(Math.min(...known.truth)).toBeLessThan(0.06);
    const { off, order } = await against(known, 'gaps');
    expect(most(off)).toBeLessThan(0.09);
    expect(order).toBeGreaterThan(0.85);
  }
});

long('drops at the corners of strokes seen from above', async () => {
  const meander = makeOn(benchFor('heron'), 'advance-meander');
  const shot = { width: 900, height: 1800, fills: 0.95 };
  for (const seed of [1]) {
    const { told, all, off, order } = await against(dropped(meander, seed, shot), 'bulge');
    expect(told).toHaveLength(all);
    expect(most(off)).toBeLessThan(0.08);
    expect(order).toBeGreaterThan(0.9);
  }
});

long('how far sides stand out, and how rough they are', async () => {
  for (const seed of [2]) {
    const known = bulging(walls, seed, {}, styleFor(seed));
    const sides = await against(known, 'bulge');
    expect(sides.told).toHaveLength(walls.rungs.length);
    expect(most(sides.off)).toBeLessThan(0.16);
    expect(sides.order).toBeGreaterThan(0.85);
    const rough = await against({ ...known, truth: known.rough }, 'edge');
    rough.off.forEach((off, i) =>
      expect(Math.abs(off)).toBeLessThan(0.008 + 0.4 * known.rough[rough.told[i]!.rung]!),
    );
    expect(rough.order).toBeGreaterThan(0.75);
  }
});

long('threads that hang so close that hardly any ground is left between them', async () => {
  const truth = [12, 11, 3, 7, 0, 10, 5, 12];
  const close = await against(strung(tower, 3, truth, {}, styleFor(9012)), 'threads');
  expect(close.told).toHaveLength(truth.length);
  expect(close.order).toBeGreaterThan(0.9);
});

long('layers, pairs and echoes in other colours', async () => {
  for (const seed of [4]) {
    const style = styleFor(seed);
    const pitch = await against(layered(tower, seed, {}, style), 'layer-pitch');
    pitch.off.forEach((off) => expect(Math.abs(off / tower.layerHeight)).toBeLessThan(0.02));
    const pairs = await against(vernier(tower, seed, {}, style), 'line-up');
    expect(pairs.told).toHaveLength(11);
    expect(most(pairs.off)).toBeLessThan(0.03);
    const echoes = await against(echoing(walls, seed, 0.2, {}, style), 'ghost-spacing');
    expect(echoes.told.length).toBeGreaterThanOrEqual(5);
    expect(pitch.holds + pairs.holds + echoes.holds).toBeGreaterThan(1.8);
  }
});

long('marks that never fade are no echoes', () => {
  const known = echoing(walls, 5, 0.2, {}, undefined, Infinity);
  const { measures } = lookAt(known.photo, walls, {
    corners: known.corners,
    measures: ['ghost-spacing'],
  });
  expect(measures.filter(({ told }) => told)).toEqual([]);
});
