import fc from 'fast-check';
import { beadArea, beadPitch, beadWidth, filamentFor, roundArea } from './bead';

const height = fc.double({ min: 0.05, max: 0.6, noNaN: true });
const ratio = fc.double({ min: 1, max: 6, noNaN: true });

test('a bead as wide as it is tall is a circle', () => {
  expect(beadArea(0.4, 0.4)).toBeCloseTo(Math.PI * 0.2 ** 2, 12);
});

test('width and area undo each other', () => {
  fc.assert(
    fc.property(height, ratio, (h, r) => {
      expect(beadWidth(beadArea(h * r, h), h)).toBeCloseTo(h * r, 9);
    }),
    { seed: 11 },
  );
});

test('beads at their pitch fill the layer', () => {
  fc.assert(
    fc.property(height, ratio, (h, r) => {
      expect(beadPitch(h * r, h) * h).toBeCloseTo(beadArea(h * r, h), 12);
      expect(beadPitch(h * r, h)).toBeLessThanOrEqual(h * r);
    }),
    { seed: 18 },
  );
});

test('a stroke takes as much filament as it lays plastic', () => {
  expect(filamentFor(100, 0.08, 1.75) * roundArea(1.75)).toBeCloseTo(8, 9);
});

test.each([
  [0.2, 0.3],
  [0.4, 0],
  [Number.NaN, 0.2],
])('refuses a bead of %p × %p', (width, h) => {
  expect(() => beadArea(width, h)).toThrow(RangeError);
});
