import fc from 'fast-check';
import { quantile, short, shortPlain, signed, snap, tidy } from './numbers';

test.each([
  [0.30000000000000004, 0.3],
  [-0, 0],
  [202.5, 202.5],
])('tidy takes the binary dust off %p', (value, wanted) => {
  expect(Object.is(tidy(value), wanted)).toBe(true);
});

test('snapping gives a multiple of the resolution, at most half of it away', () => {
  fc.assert(
    fc.property(
      fc.double({ min: -500, max: 500, noNaN: true }),
      fc.constantFrom(0.005, 0.02, 0.1, 1, 5),
      (value, resolution) => {
        const snapped = snap(value, resolution);
        expect(Math.abs(snapped - value)).toBeLessThanOrEqual(resolution / 2 + 1e-6);
        expect(Math.abs(snapped / resolution - Math.round(snapped / resolution))).toBeLessThan(
          1e-6,
        );
      },
    ),
    { seed: 12 },
  );
});

test.each([
  [1, 3, '1'],
  [1.5, 3, '1.5'],
  [-0.0001, 3, '0'],
  [100, 0, '100'],
  [0.04, 2, '0.04'],
])('short(%p, %p) is %p', (value, decimals, wanted) => {
  expect(short(value, decimals)).toBe(wanted);
});

test('a short number reads back within half of its last decimal', () => {
  fc.assert(
    fc.property(fc.double({ min: -1e4, max: 1e4, noNaN: true }), (value) => {
      expect(Math.abs(Number(short(value)) - value)).toBeLessThanOrEqual(0.0005 + 1e-9);
    }),
    { seed: 13 },
  );
});

test('the quick text of a number is its plain text', () => {
  fc.assert(
    fc.property(
      fc.oneof(
        fc.double({ min: -3000, max: 3000, noNaN: true }),
        fc.integer({ min: -400000, max: 400000 }).map((n) => n / 2000),
        fc.constantFrom(0, -0, 0.0005, 1e9, -1e-7, 2.5, 0.1 + 0.2),
      ),
      fc.integer({ min: 0, max: 8 }),
      (value, decimals) => expect(short(value, decimals)).toBe(shortPlain(value, decimals)),
    ),
    { seed: 17, numRuns: 5000 },
  );
});

test('quantiles run from the least to the greatest', () => {
  expect([0, 0.5, 1].map((share) => quantile([3, 1, 2], share))).toEqual([1, 2, 3]);
  expect(() => quantile([], 0.5)).toThrow(RangeError);
});

test('an amount that is added has its sign', () => {
  expect([signed(0.05), signed(-0.05), signed(0), signed(1 / 3)]).toEqual([
    '+0.05',
    '-0.05',
    '0',
    '+0.333',
  ]);
});
