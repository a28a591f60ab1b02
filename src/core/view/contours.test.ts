import type { Plane } from '../reading/finding';
import type { Cells, GridLine } from './cells';
import { contoursOf, placed, placing } from './contours';

const lines = (count: number, size: number): GridLine[] =>
  Array.from({ length: count }, (_, index) => ({
    index,
    name: `${index}`,
    label: `${index}`,
    from: index * size,
    to: (index + 1) * size,
    share: 0,
  }));

test('a value stands between the middles of the lines next to it, whichever way they climb', () => {
  const up = placing(lines(3, 10), [200, 210, 220]);
  expect(up(205)).toBeCloseTo(10);
  expect(up(220)).toBeCloseTo(25);
  const down = placing(lines(3, 10), [220, 210, 200]);
  expect(down(205)).toBeCloseTo(20);
  expect(down(230)).toBeCloseTo(-5);
});

test('lines of equal goodness run around the hill, at its scores, and nothing along the border', () => {
  const of = (n: number) => Array.from({ length: n }, (_, i) => i);
  const [a, b] = [of(21).map((i) => 200 + i), of(21).map((i) => 1 + i / 10)];
  // A hill in the middle that falls to nothing at every border, and one that is cut off by it.
  const hill = (x: number, y: number) =>
    Math.max(0, 1 - ((x - 210) / 9) ** 2 - ((y - 2) / 0.9) ** 2);
  const cells = {
    rows: lines(3, 4),
    columns: lines(3, 20),
    up: { setting: 'nozzle', title: '', unit: '' },
    across: { setting: 'retraction', title: '', unit: '' },
    rung: [],
  } as unknown as Cells;
  const where = placed(cells, 'nozzle', (axis, step) =>
    axis === 'up' ? 200 + 10 * step : 1 + step,
  );
  const plane = (mean: number[][]) => ({ a, b, mean }) as unknown as Plane;
  const whole = contoursOf(plane(a.map((x) => b.map((y) => hill(x, y)))), where);
  const middle = { x: 30, y: 6 };
  for (const { score, pieces } of whole) {
    expect(pieces).toHaveLength(1);
    for (const [x, y] of pieces[0]!) {
      const [value, over] = [200 + ((y - 2) / 4) * 10, 1 + (x - 10) / 20];
      expect(hill(value, over)).toBeCloseTo(score / 4, 1);
      expect(Math.abs(x - middle.x)).toBeLessThan(20);
    }
  }
  const cut = contoursOf(plane(a.map((x) => b.map((y) => hill(x, y + 1)))), where);
  for (const { pieces } of cut)
    for (const run of pieces)
      expect(Math.hypot(run[0]![0] - run.at(-1)![0], run[0]![1] - run.at(-1)![1])).toBeGreaterThan(
        0,
      );
});
