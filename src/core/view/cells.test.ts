import { makeLadder } from '../ladders/make';
import { benchFor, good } from '../testing';
import { gridCells, placeOf, rowsAsRungs } from './cells';
import { onSharedAxis } from './shared-axis';

const bench = benchFor();

test.each(['heat-retraction', 'bridge-speed-fan'])(
  'cells of %s cover their rungs, rows over each other and columns beside each other',
  (id) => {
    const { plan } = good(makeLadder(id, {}, bench));
    const { cells, height, width, rungs } = onSharedAxis(plan);
    expect(cells!.rows).toHaveLength(plan.axes[0]!.steps.length);
    expect(cells!.columns).toHaveLength(plan.axes[1]!.steps.length);
    expect(cells!.rung.flat().toSorted((a, b) => a - b)).toEqual(plan.rungs.map((_, i) => i));
    for (const lines of [cells!.rows, cells!.columns])
      lines
        .slice(1)
        .forEach((line, i) => expect(line.from).toBeGreaterThanOrEqual(lines[i]!.to - 1e-6));
    expect(cells!.rows.at(-1)!.to).toBeLessThanOrEqual(height + 1e-6);
    const last = cells!.columns.at(-1)!;
    expect((last.from + last.to) / 2).toBeLessThan(width + 2);
    for (const { index, at } of rungs) {
      const { row, column } = placeOf(cells!, index);
      expect([cells!.rows[row]!.index, cells!.columns[column]!.index]).toEqual(at);
    }
  },
);

test('rows of a grid stand for its rungs, each from the line where the first of its cells begins', () => {
  const { plan } = good(makeLadder('heat-retraction', {}, bench));
  const { cells, rungs } = onSharedAxis(plan);
  const rows = rowsAsRungs(cells!, rungs);
  expect(rows.map(({ name }) => name)).toEqual(
    plan.axes[0]!.steps.map(({ label }) => `${label} °C`),
  );
  rows.slice(1).forEach(({ line }, i) => expect(line).toBeGreaterThan(rows[i]!.line));
  expect(rows[0]!.line).toBe(Math.min(...plan.rungs.map(({ line }) => line)));
});

test('a ladder has no cells', () => {
  const { plan } = good(makeLadder('temperature', {}, bench));
  expect(onSharedAxis(plan).cells).toBeNull();
  expect(gridCells(plan.axes, plan.rungs, 'front', { left: 0, near: 0 })).toBeNull();
});
