import fc from 'fast-check';
import { findValue } from '../../reading/find-value';
import { benchFor, good, makeOn, movesOf, told } from '../../testing';
import { kindOf } from '../registry';

const bench = benchFor('otter');
const kind = good(kindOf('nozzle-alignment'));
const made = makeOn(bench, 'nozzle-alignment');
const { rungs } = made.plan;
const step = Number(made.plan.spec.step);

/** Middles of the upright lines of a nozzle in the vernier for x, mm, from left to right. */
const lines = (tool: number): number[] => {
  const [minY, maxY] = [rungs[0]!.boxes![1]!.minY, rungs[0]!.boxes![1]!.maxY];
  const found = movesOf(made, 'extrude').filter(
    (one) =>
      one.tool === tool &&
      Math.abs(one.from.x - one.to.x) < 0.01 &&
      Math.abs(one.length - Number(made.plan.spec.length)) < 0.01 &&
      one.from.y >= minY - 0.01 &&
      one.from.y <= maxY + 0.01,
  );
  return found.map(({ to }) => to.x).sort((a, b) => a - b);
};

test('the lines of the second nozzle stand a step further apart than those of the first', () => {
  const [a, b] = [lines(0), lines(1)];
  expect(a).toHaveLength(rungs.length);
  expect(b).toHaveLength(rungs.length);
  const pitch = (list: number[]) => list.slice(1).map((x, i) => x - list[i]!);
  // Places are written with three decimals.
  pitch(b).forEach((one, i) => expect(Math.abs(one - pitch(a)[i]! - step)).toBeLessThan(0.0021));
  // The middle pair stands exactly end to end, and each pair is off by what it is called.
  rungs.forEach(({ set }, i) =>
    expect(Math.abs(b[i]! - a[i]! - set.offsetX!)).toBeLessThan(0.0011),
  );
});

test('lines of both nozzles never overlap: a slit lies between them', () => {
  const ends = (tool: number) =>
    movesOf(made, 'extrude')
      .filter((one) => one.tool === tool && one.rung >= 0)
      .map(({ from, to }) => [Math.min(from.y, to.y), Math.max(from.y, to.y)] as const);
  expect(ends(1).length).toBeGreaterThan(10);
  const vernier = rungs[0]!.boxes![1]!;
  const second = ends(1).filter(
    ([low, high]) => low >= vernier.minY && high <= vernier.maxY + 0.01,
  );
  const middle = (vernier.minY + vernier.maxY) / 2;
  for (const [low] of second) expect(low).toBeGreaterThan(middle);
});

test('the pair that reads as one line is the offset, whatever pair it is', () => {
  const values = rungs.map(({ set }) => set.offsetX!);
  fc.assert(
    fc.property(fc.constantFrom(...values), fc.constantFrom(...values), (x, y) => {
      const found = told(
        findValue(kind, made.plan, bench, { readings: [], measured: [{ x: [x], y: [y] }] }),
      );
      expect(found.value).toBeCloseTo(x, 6);
      expect(found.range![0]).toBeLessThan(x);
      expect(found.range![1]).toBeGreaterThan(x);
      expect(found.also.map(({ value }) => value)).toEqual([expect.closeTo(y, 6)]);
    }),
    { seed: 6, numRuns: 40 },
  );
});

test('a pair at the very end asks for another print', () => {
  const last = rungs.at(-1)!.set.offsetX!;
  const found = told(
    findValue(kind, made.plan, bench, { readings: [], measured: [{ x: [last], y: [0] }] }),
  );
  expect(found.notes.join(' ')).toContain('print it once more');
});
