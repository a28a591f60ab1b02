import fc from 'fast-check';
import type { HeatRow } from '../link-state';
import { heatAlong, warmthScale } from './heat-along';

const rungs = [
  { index: 0, line: 100, z: { from: 0, to: 4 } },
  { index: 1, line: 200, z: { from: 4, to: 8 } },
];
const row = (line: number | undefined, nozzle: number, target = 210): HeatRow =>
  line === undefined ? [0, nozzle, target, 60, 60] : [0, nozzle, target, 60, 60, line];

test('what was measured at a line stands at the height that was printed then', () => {
  const rows = [row(40, 180), row(100, 208), row(150, 209), row(200, 211), row(300, 212)];
  expect(heatAlong(rows, rungs, 300)).toEqual([
    {
      rung: 0,
      points: [
        { along: 0, nozzle: 208, target: 210 },
        { along: 2, nozzle: 209, target: 210 },
      ],
    },
    {
      rung: 1,
      points: [
        { along: 4, nozzle: 211, target: 210 },
        { along: 8, nozzle: 212, target: 210 },
      ],
    },
  ]);
});

test('rungs are told in the order of printing, wherever they stand', () => {
  const mixed = [
    { ...rungs[0]!, line: 200 },
    { ...rungs[1]!, line: 100 },
  ];
  const told = heatAlong([row(150, 209), row(250, 210)], mixed, 300);
  expect(told.map(({ rung, points }) => [rung, points[0]!.along])).toEqual([
    [1, 6],
    [0, 2],
  ]);
});

test('a nozzle that cools at the end is not drawn over the last rung', () => {
  const told = heatAlong([row(250, 210), row(299, 150, 0), row(300, 90, 0)], rungs, 300);
  expect(told.flatMap(({ points }) => points.map(({ nozzle }) => nozzle))).toEqual([210]);
});

test('rows that say no line tell nothing of a height', () => {
  expect(heatAlong([row(undefined, 210)], rungs, 300)).toEqual([]);
  expect(heatAlong([], rungs, 300)).toEqual([]);
});

test('every row from the first rung on is in one rung, within its ends', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 100, max: 300 }), { maxLength: 30 }), (lines) => {
      const told = heatAlong(
        lines.map((line) => row(line, 200)),
        rungs,
        300,
      );
      expect(told.reduce((sum, { points }) => sum + points.length, 0)).toBe(lines.length);
      for (const { rung, points } of told)
        for (const { along } of points) {
          expect(along).toBeGreaterThanOrEqual(rungs[rung]!.z.from);
          expect(along).toBeLessThanOrEqual(rungs[rung]!.z.to);
        }
    }),
  );
});

test('a scale of temperatures holds all of them, and is not so fine that noise fills it', () => {
  expect(warmthScale([209.5, 210.4])).toEqual({ low: 201, high: 218 });
  const { low, high } = warmthScale([190, 225]);
  expect([low, high]).toEqual([188, 227]);
});
