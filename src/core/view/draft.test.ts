import { kinds } from '../ladders/registry';
import { benchFor, good } from '../testing';
import { makeLadder } from '../ladders/make';
import { draftView } from './draft';
import type { PlannedRung } from '../plan/plan';
import { onSharedAxis } from './shared-axis';
import { ladderPicture, type Picture } from './ladder-picture';

const PX_PER_MM = 4;
const towers = kinds().filter(({ draft }) => draft);
const benchOf = (kind: (typeof towers)[number]) =>
  benchFor((['heron', 'wren', 'otter'] as const).find((one) => !kind.unfit?.(benchFor(one))));

/** Colour of the middle of a cell of a coarse grid over a picture; null where nothing is. */
function sampled({ width, height, rgba }: Picture): (number[] | null)[] {
  const [columns, rows] = [40, 60];
  return Array.from({ length: columns * rows }, (_, i) => {
    const x = Math.floor((((i % columns) + 0.5) / columns) * width);
    const y = Math.floor(((Math.floor(i / columns) + 0.5) / rows) * height);
    const at = (y * width + x) * 4;
    return rgba[at + 3] === 0 ? null : [...rgba.slice(at, at + 3)];
  });
}

describe.each(towers.map((kind) => [kind.id, kind] as const))('the draft of %s', (id, kind) => {
  const bench = benchOf(kind);
  const draft = draftView(id, {}, bench, PX_PER_MM);
  const { plan, trace } = good(makeLadder(id, {}, bench));

  test('has the rungs of the file, where the file has them', () => {
    if (!draft?.ok) throw new Error('expected a draft');
    const stands = onSharedAxis(plan);
    expect(draft.height).toBeCloseTo(stands.height);
    expect(draft.view).toBe(stands.view);
    const told = (rungs: readonly PlannedRung[]) =>
      rungs.map(({ set, z, layers }) => [set, layers, z.from.toFixed(2), z.to.toFixed(2)]);
    expect(told(draft.rungs)).toEqual(told(stands.rungs));
  });

  test('shows what the drawing of the file shows, to the same scale', () => {
    if (!draft?.ok) throw new Error('expected a draft');
    const drawn = ladderPicture(trace, plan, PX_PER_MM);
    expect(Math.abs(draft.picture.width - drawn.width)).toBeLessThanOrEqual(2);
    expect(Math.abs(draft.picture.height - drawn.height)).toBeLessThanOrEqual(1);
    const [a, b] = [sampled(draft.picture), sampled(drawn)];
    let same = 0;
    a.forEach((one, i) => {
      const other = b[i]!;
      const near = (p: number[], q: number[]) => p.every((c, k) => Math.abs(c - q[k]!) < 40);
      if (one === null || other === null ? one === other : near(one, other)) same++;
    });
    // Rims fall a fraction of a pixel apart, strands over air and the rounding of corners are not in a draft.
    expect(same / a.length).toBeGreaterThan(0.93);
  });
});

test('a draft says what stands in the way, before any file is tried', () => {
  const bench = benchFor();
  const tall = draftView('temperature', { rungHeight: 30, step: 1 }, bench, PX_PER_MM);
  expect(tall?.ok).toBe(false);
  if (tall && !tall.ok) expect(tall.problems.map(({ where }) => where)).toContain('rungHeight');
  const odd = draftView('temperature', { walls: 9 }, bench, PX_PER_MM);
  expect(odd?.ok).toBe(false);
});

test('flat patterns, whose file is made as quickly, and kinds that nobody knows have no draft', () => {
  expect(draftView('advance-hairpins', {}, benchFor(), PX_PER_MM)).toBeNull();
  expect(draftView('extruder-steps', {}, benchFor(), PX_PER_MM)).toBeNull();
  expect(draftView('nothing', {}, benchFor(), PX_PER_MM)).toBeNull();
});
