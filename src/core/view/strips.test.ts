import { makeLadder } from '../ladders/make';
import { benchFor, good } from '../testing';
import { onSharedAxis } from './shared-axis';
import { commonOf, stripsAsRungs } from './strips';

const { plan } = good(makeLadder('advance-map', {}, benchFor('wren')));
const { strips, cells, rungs } = onSharedAxis(plan);

test('every figure of a map lies in its cell, and every cell on the picture', () => {
  expect(cells).toBeNull();
  expect(strips!.cells).toHaveLength(12);
  const all = strips!.cells.flatMap(({ figures }) => figures.map(({ rung }) => rung));
  expect(all.toSorted((a, b) => a - b)).toEqual(plan.rungs.map(({ index }) => index));
  for (const { box, figures, index } of strips!.cells) {
    expect(box.minX).toBeGreaterThanOrEqual(0);
    expect(box.maxX).toBeLessThanOrEqual(strips!.wide);
    expect(box.maxY).toBeLessThanOrEqual(strips!.tall);
    figures.forEach(({ box: own, rung, name }, i) => {
      expect(own.minX).toBeGreaterThanOrEqual(box.minX);
      expect(own.maxY).toBeLessThanOrEqual(box.maxY);
      expect(plan.rungs[rung]!.at).toEqual([i, index]);
      expect(name).toBe(`${plan.axes[0]!.steps[i]!.label} s`);
    });
  }
});

test('cells do not lie over each other', () => {
  strips!.cells.forEach((a, i) =>
    strips!.cells.slice(i + 1).forEach((b) => {
      const [fa, fb] = [a, b].map(({ figures }) => figures.map(({ box }) => box)) as [
        (typeof a.figures)[number]['box'][],
        (typeof a.figures)[number]['box'][],
      ];
      expect(
        a.own.minX < b.own.maxX &&
          b.own.minX < a.own.maxX &&
          a.own.minY < b.own.maxY &&
          b.own.minY < a.own.maxY,
      ).toBe(false);
      const over = fa.some((p) =>
        fb.some((q) => p.minX < q.maxX && q.minX < p.maxX && p.minY < q.maxY && q.minY < p.maxY),
      );
      expect(over).toBe(false);
    }),
  );
});

test('what grows one after the other are rows of a speed, the front one first', () => {
  const rows = stripsAsRungs(strips!, rungs);
  expect(rows.map(({ name }) => name)).toEqual(['39 mm/s', '59 mm/s', '78 mm/s', '98 mm/s']);
  rows.slice(1).forEach(({ z, line }, i) => {
    expect(z.from).toBeGreaterThan(rows[i]!.z.to);
    expect(line).toBeGreaterThan(rows[i]!.line);
  });
});

test('what the signs of rows and columns mean is said in full', () => {
  const { rows, columns } = commonOf(strips!);
  expect(rows.map(({ said }) => said)).toEqual(['3.2 mm³/s', '4.8 mm³/s', '6.4 mm³/s', '8 mm³/s']);
  expect(columns.map(({ said }) => said)).toEqual(['1200 mm/s²', '2600 mm/s²', '4000 mm/s²']);
  for (const { at } of rows) expect(at).toBeLessThan(strips!.tall);
  // Cells in no order have nothing in common that could be said beside them.
  const [first, second] = strips!.cells;
  const mixed = { ...strips!, cells: [first!, { ...second!, name: 'something else' }] };
  expect(commonOf(mixed).rows).toEqual([]);
});

test('other prints have no strips', () => {
  const { plan: tower } = good(makeLadder('temperature', {}, benchFor()));
  const { plan: flat } = good(makeLadder('advance-hairpins', {}, benchFor()));
  expect(onSharedAxis(tower).strips).toBeNull();
  expect(onSharedAxis(flat).strips).toBeNull();
});
