import fc from 'fast-check';
import { coarser, movesUpTo, STROKE_NUMBERS } from './beads';
import { fitted, nearestStroke, strokeBox } from './pose';

type Line = [x0: number, y0: number, x1: number, y1: number, z?: number];
const beads = (lines: Line[], width = 0.4) => ({
  count: lines.length,
  strokes: Float32Array.from(
    lines.flatMap(([x0, y0, x1, y1, z = 0.1]) => [x0, y0, z, x1, y1, z, width, 0.2]),
  ),
  share: Float32Array.from(lines, (_, i) => i / 10),
  move: Uint32Array.from(lines, (_, i) => 10 + 2 * i),
});
const mm = fc.double({ min: -150, max: 150, noNaN: true });

test('a sheet that fits shows both corners of its box inside the window', () => {
  fc.assert(
    fc.property(mm, mm, mm, mm, (x0, y0, x1, y1) => {
      const box = strokeBox(beads([[x0, y0, x1, y1]]));
      const window = { width: 640, height: 480 };
      const { scale, x, y } = fitted(box, window);
      for (const [px, py] of [
        [box.minX, box.minY],
        [box.maxX, box.maxY],
      ]) {
        expect(Math.abs((px! - x) * scale)).toBeLessThanOrEqual(window.width / 2);
        expect(Math.abs((py! - y) * scale)).toBeLessThanOrEqual(window.height / 2);
      }
    }),
    { seed: 51 },
  );
});

test('no strokes still make a box, and a window too small still a scale', () => {
  const box = strokeBox(beads([]));
  expect(box.maxX).toBeGreaterThan(box.minX);
  expect(fitted(box, { width: 1, height: 1 }).scale).toBeGreaterThan(0);
});

test('the stroke under a point is the nearest one, within reach only', () => {
  const lines = beads([
    [0, 0, 10, 0],
    [0, 5, 10, 5],
    [20, 0, 20, 0],
  ]);
  const at = (x: number, y: number, within = 1, upTo: number | null = null) =>
    nearestStroke(lines, { x, y, within, upTo });
  expect(at(5, 0.9)).toBe(10);
  expect(at(5, 4.2)).toBe(12);
  expect(at(5, 2.5)).toBeNull();
  expect(at(20.5, 0)).toBe(14);
  expect(at(11.5, 0)).toBeNull();
  // What is not printed yet cannot be pointed at.
  expect(at(5, 4.2, 1, 11)).toBeNull();
  // A wide bead is hit anywhere on its width, however small the reach.
  expect(nearestStroke(beads([[0, 0, 10, 0]], 2), { x: 5, y: 0.9, within: 0.1, upTo: null })).toBe(
    10,
  );
});

test('a point on a stroke always finds a stroke at least as near', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(mm, mm, mm, mm), { minLength: 1, maxLength: 12 }),
      fc.double({ min: 0, max: 1, noNaN: true }),
      (lines, t) => {
        const [x0, y0, x1, y1] = lines[0]!;
        const point = { x: x0 + (x1 - x0) * t, y: y0 + (y1 - y0) * t };
        expect(nearestStroke(beads(lines), { ...point, within: 0.5, upTo: null })).not.toBeNull();
      },
    ),
    { seed: 52 },
  );
});

test('moves up to one are counted as by looking at each', () => {
  fc.assert(
    fc.property(fc.array(fc.nat(50)), fc.nat(50), (some, move) => {
      const ascending = Uint32Array.from(some.sort((a, b) => a - b));
      expect(movesUpTo(ascending, move)).toBe(some.filter((one) => one <= move).length);
    }),
    { seed: 53 },
  );
});

test('a coarse picture keeps every nth layer, that much taller, and closes the wall', () => {
  const lines = Array.from({ length: 12 }, (_, i): Line => [0, 0, 10, 0, 0.1 + 0.2 * (i >> 1)]);
  const all = beads(lines);
  const some = coarser(all, 3);
  expect([...some.move]).toEqual([10, 12, 22, 24]);
  const height = some.strokes[7]!;
  expect(height).toBeCloseTo(0.6, 6);
  const rise = some.strokes[2 * STROKE_NUMBERS + 5]! - some.strokes[5]!;
  expect(rise).toBeCloseTo(height, 6);
  expect(coarser(all, 1).strokes).toEqual(all.strokes);
});
