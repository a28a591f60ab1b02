import { isMixed, rowsByValue } from './in-order';

const at = (...from: number[]) =>
  from.map((z, index) => ({ index, name: `rung ${index}`, z: { from: z, to: z + 4 } }));

test.each([
  ['a tower, and one that is printed downward', at(0, 4, 8), false],
  ['from the rear to the front', at(8, 4, 0), false],
  ['one rung', at(3), false],
  ['values mixed over the bed', at(0, 8, 4), true],
])('%s', (_, rungs, mixed) => {
  expect(isMixed(rungs)).toBe(mixed);
  if (!mixed) expect(rowsByValue(rungs, 12)).toBe(rungs);
});

test('mixed rungs get rows one under the other over the whole height, and keep what else they are', () => {
  const rows = rowsByValue(at(30, 10, 0, 20), 40);
  expect(rows.map(({ z }) => z)).toEqual([
    { from: 30, to: 40 },
    { from: 20, to: 30 },
    { from: 10, to: 20 },
    { from: 0, to: 10 },
  ]);
  expect(rows.map(({ name }) => name)).toEqual(['rung 0', 'rung 1', 'rung 2', 'rung 3']);
  expect(isMixed(rows)).toBe(false);
});
