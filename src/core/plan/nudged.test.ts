import fc from 'fast-check';
import { kindOf } from '../ladders/registry';
import { makeLadder } from '../ladders/make';
import { benchFor, good } from '../testing';
import { rungName } from './axes';
import { asNudged, floorAt, lastHeight, nudgedBy, withNudges, type Nudge } from './nudged';
import { Plan } from './plan';

const kind = good(kindOf('first-layer'));
const bench = benchFor('heron');
const standard = (id: string) =>
  good(makeLadder(id, good(kindOf(id)).defaults(bench) as Record<string, number>, bench));
const made = standard('first-layer');
const { plan } = made;
const lines = made.text.split('\n').length;
const inOrder = [...plan.rungs].sort((a, b) => a.line - b.line);

/** Nudges at lines, with their running total. */
function nudges(...given: [line: number, mm: number][]): Nudge[] {
  let total = 0;
  return given.map(([line, mm]) => ({ line, mm, total: (total += mm), x: 1, y: 2, at: '' }));
}

test('rungs before a nudge stay, those after it stand where they were really printed', () => {
  const [third] = inOrder.slice(3);
  const really = asNudged(plan, nudges([third!.line - 1, -0.05]));
  expect(Plan.safeParse(really).success).toBe(true);
  for (const [i, { index, set }] of inOrder.entries()) {
    const now = really.rungs.find((one) => one.index === index)!;
    expect(now.set.zOffset).toBeCloseTo(set.zOffset! - (i < 3 ? 0 : 0.05), 6);
  }
  // It is called by its height, and what stands in plastic is still said.
  const moved = really.rungs.find((one) => one.index === third!.index)!;
  expect(rungName(really.axes, moved)).toBe(`${moved.set.zOffset} mm`);
  expect(really.axes[0]!.steps[moved.at[0]!]!.mark).toBe(
    plan.axes[0]!.steps[third!.at[0]!]!.mark ?? plan.axes[0]!.steps[third!.at[0]!]!.label,
  );
});

test('a patch that was nudged in its middle counts as half', () => {
  const [patch, next] = inOrder.slice(2, 4);
  const middle = Math.round((patch!.line + next!.line) / 2);
  const higher = nudgedBy(plan.rungs, nudges([middle, 0.02]));
  expect(higher.get(patch!.index)).toBeCloseTo(0.01, 3);
  expect(higher.get(next!.index)).toBeCloseTo(0.02, 6);
  expect(higher.get(inOrder[1]!.index)).toBe(0);
});

test('nothing nudged, or another print, is itself', () => {
  expect(asNudged(plan, [])).toBe(plan);
  const other = standard('temperature');
  expect(asNudged(other.plan, nudges([30, 0.05]))).toBe(other.plan);
  expect(lastHeight(plan, [], 10)).toBeNull();
});

test('the mean over a rung never lies outside of what was in force on it', () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.tuple(fc.integer({ min: 1, max: lines }), fc.constantFrom(-0.05, -0.02, 0.02, 0.05)),
        { maxLength: 8 },
      ),
      (given) => {
        const all = nudges(...given.sort(([a], [b]) => a - b));
        const totals = [0, ...all.map(({ total }) => total)];
        for (const mm of nudgedBy(plan.rungs, all).values()) {
          expect(mm).toBeGreaterThanOrEqual(Math.min(...totals) - 1e-9);
          expect(mm).toBeLessThanOrEqual(Math.max(...totals) + 1e-9);
        }
      },
    ),
  );
});

test('the floor keeps the lowest patch that is still to come off the bed', () => {
  const floors = kind.floors!(plan);
  const layer = plan.layerHeight;
  const lowest = Math.min(...plan.rungs.map(({ set }) => set.zOffset!));
  for (const line of [1, inOrder[0]!.line, inOrder.at(-1)!.line, lines])
    expect(floorAt(floors, line)! + lowest).toBeCloseTo(-0.6 * layer, 6);
  expect(floorAt([], 5)).toBeNull();
});

test('the last height is that of the patch with all that was nudged', () => {
  const some = nudges([inOrder[0]!.line + 3, -0.05], [inOrder[1]!.line + 3, 0.02]);
  expect(lastHeight(plan, some, inOrder[1]!.line + 5)).toBeCloseTo(
    inOrder[1]!.set.zOffset! - 0.03,
    6,
  );
});

test('a file as it was executed has each nudge behind the line after which it came', () => {
  const some = nudges([2, -0.05], [3, 0.02]);
  expect(withNudges('a\nb\nc\nd', some, (mm) => `M290 Z${mm}`)).toBe(
    'a\nb\nM290 Z-0.05\nc\nM290 Z0.02\nd',
  );
  expect(withNudges('a', [], () => 'x')).toBe('a');
});
