import { readBytes } from '@/core/gcode/read';
import { Wish } from '@/core/graft/recipe';
import { rectangle, SECTIONS, slice, towerOf } from '@/core/graft/testing/slicer';
import { Workbench } from '@/core/graft/workbench';
import { seeded } from '@/core/random';
import { benchFor, good } from '@/core/testing';
import { draftOf, heightsFor, toWish, valuesOf, withHeights } from './draft';

const heron = benchFor('heron');
const tower = { base: 1.4, section: 5, count: 4, cap: 0 };
const bytes = new TextEncoder().encode(
  slice(
    towerOf(tower, SECTIONS.window!(0, seeded(1)), [rectangle(-4, -4, 50, 26)], () => []),
    {
      infill: 0,
    },
  ),
);
const opened = new Workbench('a.gcode', bytes, readBytes(bytes, heron.machine), heron).opened();

test('a new draft takes what was found, and becomes a wish with a value for each section', () => {
  const draft = draftOf(opened, null, heron);
  const wish = good(toWish(draft, opened, heron));
  expect(wish.rows).toHaveLength(4);
  expect(wish.rows.map(({ set }) => set.nozzle)).toEqual(valuesOf(draft, 4));
  expect(heightsFor(draft, { ok: true, value: wish })).toEqual(draft.heights);
});

test('what was asked for before comes back as it was, for the same bench', () => {
  for (const before of [
    { rows: [1, 5, 9].map((from, i) => ({ from, set: { nozzle: 220 - 5 * i } })) },
    {
      rows: [{ from: 1, set: { advance: 0.2 } }],
      slope: { setting: 'advance' as const, perMm: 0.01 },
    },
    {
      rows: [1, 5].map((from, i) => ({ from, set: { nozzle: 220 - 5 * i, fan: 0.2 + 0.2 * i } })),
      mends: { temperature: 'lift' as const },
    },
  ]) {
    const wish = Wish.parse(before);
    const again = good(toWish(draftOf(opened, wish, heron), opened, heron));
    expect(again.rows).toEqual(wish.rows);
    expect(again.slope).toEqual(wish.slope);
    expect(again.mends).toEqual(wish.mends);
  }
});

test('a line that is moved changes a row of the table as well', () => {
  const draft = { ...draftOf(opened, null, heron), mode: 'table' as const };
  draft.table = 'height,nozzle\n1,220\n5,210\n';
  expect(withHeights(draft, [1, 6]).table).toBe('height,nozzle\n1,220\n6,210\n');
  expect(withHeights({ ...draft, mode: 'range' }, [2, 7])).toEqual({
    heights: [2, 7],
    candidate: null,
  });
  const climbing = { ...draft, mode: 'slope' as const, heights: [1, 4, 8] };
  expect(withHeights(climbing, [5]).heights).toEqual([5, 8]);
});
