import fc from 'fast-check';
import {
  area,
  contains,
  crossings,
  cut,
  intersect,
  islands,
  offset,
  rect,
  subtract,
  union,
} from './region';
import { hatch } from './hatch';

const square = rect(0, 0, 10, 10);

test('union, intersection and difference account for all area', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 15 }), fc.integer({ min: 1, max: 15 }), (x, y) => {
      const other = rect(x, y, x + 8, y + 8);
      const both = area(intersect(square, other));
      expect(area(union(square, other))).toBeCloseTo(100 + 64 - both, 3);
      expect(area(subtract(square, other))).toBeCloseTo(100 - both, 3);
    }),
    { seed: 21 },
  );
});

test('growing and shrinking undo each other on a convex shape', () => {
  fc.assert(
    fc.property(fc.double({ min: 0.1, max: 4, noNaN: true }), (by) => {
      expect(area(offset(offset(square, by), -by))).toBeCloseTo(100, 1);
      expect(area(offset(square, by))).toBeCloseTo((10 + 2 * by) ** 2, 1);
    }),
    { seed: 22 },
  );
});

test('a shape shrunk past its middle is gone', () => {
  expect(offset(square, -5.1)).toEqual([]);
});

test('a hole belongs to its island', () => {
  const parts = islands(union(subtract(square, rect(2, 2, 8, 8)), rect(20, 0, 24, 4)));
  expect(parts.map((part) => part.length).sort()).toEqual([1, 2]);
  expect(contains(parts.flat(), { x: 5, y: 5 })).toBe(false);
  expect(contains(parts.flat(), { x: 1, y: 5 })).toBe(true);
});

test('a line is cut where it enters and leaves', () => {
  expect(crossings(square, { x: -10, y: 5 }, { x: 20, y: 5 }).map((t) => t * 30)).toEqual([10, 20]);
  const pieces = cut(square, { x: -10, y: 5 }, { x: 20, y: 5 });
  expect(pieces.map(({ inside }) => inside)).toEqual([false, true, false]);
});

test('hatching covers a rectangle evenly at any direction', () => {
  fc.assert(
    fc.property(fc.constantFrom(0, Math.PI / 4, Math.PI / 2, 0.3), (angle) => {
      const lines = hatch(square, 0.5, angle);
      const length = lines.reduce((sum, [a, b]) => sum + Math.hypot(b.x - a.x, b.y - a.y), 0);
      // Length times spacing is the area, but for the line more than there are gaps.
      expect(length * 0.5).toBeGreaterThan(97);
      expect(length * 0.5).toBeLessThan(112);
      for (const [a, b] of lines) {
        for (const p of [a, b]) {
          expect(Math.min(p.x, p.y)).toBeGreaterThan(-1e-6);
          expect(Math.max(p.x, p.y)).toBeLessThan(10 + 1e-6);
        }
      }
    }),
    { seed: 23 },
  );
});
