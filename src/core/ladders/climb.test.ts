import fc from 'fast-check';
import { climb, isWhole, ratioOf, nearestWhole } from './climb';

test.each([
  [{ from: 225, to: 190, step: 5 }, [225, 220, 215, 210, 205, 200, 195, 190]],
  [{ from: 190, to: 200, step: 5 }, [190, 195, 200]],
  [{ from: 0, to: 0.1, step: 0.02 }, [0, 0.02, 0.04, 0.06, 0.08, 0.1]],
  [{ from: 225, to: 192, step: 5 }, [225, 220, 215, 210, 205, 200, 195]],
  [{ from: 200, to: 200, step: 5 }, [200]],
])('%j climbs through %j', (range, values) => {
  expect(climb(range)).toEqual(values);
});

const range = fc.record({
  from: fc.integer({ min: 150, max: 300 }),
  to: fc.integer({ min: 150, max: 300 }),
  step: fc.integer({ min: 1, max: 20 }),
});

test('a climb begins at its start, keeps its step and never leaves the range', () => {
  fc.assert(
    fc.property(range, (r) => {
      const values = climb(r);
      expect(values[0]).toBe(r.from);
      const [low, high] = [Math.min(r.from, r.to), Math.max(r.from, r.to)];
      expect(values.every((v) => v >= low && v <= high)).toBe(true);
      values.slice(1).forEach((v, i) => expect(Math.abs(v - values[i]!)).toBe(r.step));
      expect(isWhole(r)).toBe(values.at(-1) === r.to);
    }),
    { seed: 15 },
  );
});

test('both offered ranges are whole, and the asked end lies between theirs', () => {
  fc.assert(
    fc.property(range, (r) => {
      const [shorter, longer] = nearestWhole(r);
      expect(isWhole(shorter) && isWhole(longer)).toBe(true);
      expect(Math.abs(shorter.to - r.from)).toBeLessThanOrEqual(Math.abs(r.to - r.from));
      expect(Math.abs(longer.to - r.from)).toBeGreaterThan(Math.abs(r.to - r.from));
    }),
    { seed: 16 },
  );
});

describe('growing steps', () => {
  const range = { from: 400, to: 3000, step: 160, growing: 1 };

  test('keep both ends, and grow by the same share but for rounding', () => {
    const values = climb(range, 50);
    expect([values[0], values.at(-1)]).toEqual([400, 3000]);
    values.slice(1).forEach((value, i) => {
      expect(value / values[i]! / ratioOf(range)).toBeGreaterThan(0.85);
      expect(value / values[i]! / ratioOf(range)).toBeLessThan(1.15);
      expect(value % 50).toBe(0);
    });
    expect(climb({ ...range, from: 3000, to: 400 }, 50)).toEqual([...values].reverse());
    expect(isWhole(range)).toBe(true);
  });

  test('are even where a range has no ratio', () => {
    expect(climb({ from: 0, to: 3, step: 1, growing: 1 })).toEqual([0, 1, 2, 3]);
  });
});
