import fc from 'fast-check';
import { arcPoints } from './arc';

const NONE = { i: NaN, j: NaN, r: NaN };
const angle = fc.double({ min: 0, max: 2 * Math.PI, noNaN: true });
const radius = fc.double({ min: 0.5, max: 100, noNaN: true });
const on = (r: number, at: number) => ({ x: r * Math.cos(at), y: r * Math.sin(at) });
const length = (points: { x: number; y: number }[]) =>
  points
    .slice(1)
    .reduce((sum, p, i) => sum + Math.hypot(p.x - points[i]!.x, p.y - points[i]!.y), 0);

test('every point lies on the circle, the last one where the arc ends', () => {
  fc.assert(
    fc.property(radius, angle, angle, fc.boolean(), (r, a, b, clockwise) => {
      const [from, to] = [on(r, a), on(r, b)];
      const points = arcPoints(from, to, { ...NONE, i: -from.x, j: -from.y }, clockwise)!;
      for (const { x, y } of points) expect(Math.hypot(x, y)).toBeCloseTo(r, 3);
      expect(points.at(-1)).toEqual(to);
    }),
    { seed: 91 },
  );
});

test('one way round and the other together make the circle', () => {
  fc.assert(
    fc.property(radius, angle, fc.double({ min: 0.3, max: 5.9, noNaN: true }), (r, a, sweep) => {
      const [from, to] = [on(r, a), on(r, a + sweep)];
      const centre = { ...NONE, i: -from.x, j: -from.y };
      const left = length([from, ...arcPoints(from, to, centre, false)!]);
      const right = length([from, ...arcPoints(from, to, centre, true)!]);
      expect((left + right) / (2 * Math.PI * r)).toBeGreaterThan(0.985);
      expect((left + right) / (2 * Math.PI * r)).toBeLessThan(1.0001);
      expect(left / right).toBeCloseTo(sweep / (2 * Math.PI - sweep), 0);
    }),
    { seed: 92 },
  );
});

test('chords leave the arc by no more than a hundredth of a millimetre', () => {
  fc.assert(
    fc.property(fc.double({ min: 0.5, max: 60, noNaN: true }), angle, (r, a) => {
      const from = on(r, a);
      const points = [
        from,
        ...arcPoints(from, on(r, a + 2), { ...NONE, i: -from.x, j: -from.y }, false)!,
      ];
      points.slice(1).forEach((p, i) => {
        const middle = { x: (p.x + points[i]!.x) / 2, y: (p.y + points[i]!.y) / 2 };
        expect(r - Math.hypot(middle.x, middle.y)).toBeLessThan(0.0101);
      });
    }),
    { seed: 93 },
  );
});

test('a full circle ends where it began', () => {
  const points = arcPoints({ x: 10, y: 0 }, { x: 10, y: 0 }, { ...NONE, i: -10, j: 0 }, true)!;
  expect(length([{ x: 10, y: 0 }, ...points])).toBeCloseTo(20 * Math.PI, 0);
});

test('a radius gives the shorter way, a negative one the longer', () => {
  const [from, to] = [
    { x: 0, y: 0 },
    { x: 10, y: 0 },
  ];
  const short = length([from, ...arcPoints(from, to, { ...NONE, r: 8 }, false)!]);
  const long = length([from, ...arcPoints(from, to, { ...NONE, r: -8 }, false)!]);
  expect(short).toBeLessThan(12);
  expect(short + long).toBeCloseTo(16 * Math.PI, 0);
});

test.each([
  ['no centre', NONE],
  ['a radius too short for its ends', { ...NONE, r: 2 }],
  ['a centre that is the start', { ...NONE, i: 0, j: 0 }],
  ['ends on two circles', { ...NONE, i: 1, j: 1 }],
])('%s is no arc', (_, centre) => {
  expect(arcPoints({ x: 0, y: 0 }, { x: 10, y: 0 }, centre, false)).toBeNull();
});

test('an arc of a kilometre does not grow without bound', () => {
  const points = arcPoints({ x: 1e6, y: 0 }, { x: -1e6, y: 0 }, { ...NONE, i: -1e6, j: 0 }, false)!;
  expect(points.length).toBeLessThanOrEqual(720);
});
