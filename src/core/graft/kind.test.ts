import { readBytes } from '../gcode/read';
import { graft } from './graft';
import { Wish } from './recipe';
import { sourceOf } from './source';
import { rectangle, SECTIONS, slice, towerOf } from './testing/slicer';
import { seeded } from '../random';
import { findValue } from '../reading/find-value';
import { benchFor, good } from '../testing';
import { makeLadder, whyNot } from '../ladders/make';
import { kindFor } from '../ladders/registry';
import { CLIMBS, climbEnds, graftKind, usualClimb } from '../ladders/graft/kind';

const heron = benchFor('heron');
const tower = { base: 1.4, section: 4, count: 5, cap: 0 };
const bytes = new TextEncoder().encode(
  slice(
    towerOf(tower, SECTIONS.window!(0, seeded(1)), [rectangle(-4, -4, 50, 26)], () => []),
    {
      infill: 0,
    },
  ),
);
const source = sourceOf('a.gcode', bytes, readBytes(bytes, heron.machine));
const planOf = (wish: unknown) => good(graft(source, Wish.parse(wish), heron)).plan;

test.each(CLIMBS)(
  '%s: what is looked at is weighed, and a range to begin with fits the bench',
  (setting) => {
    const kind = graftKind(setting);
    expect(kind.finds).toEqual([setting]);
    expect(kind.criteria.length).toBeGreaterThan(1);
    expect(Math.max(...kind.criteria.map(({ weight }) => weight))).toBe(1);
    for (const name of ['heron', 'wren', 'otter', 'newt'] as const) {
      const bench = benchFor(name);
      const { min, max } = climbEnds(bench)[setting];
      const { from, to, step } = usualClimb(setting, bench, 6);
      for (const end of [from, to]) {
        expect([name, end]).toEqual([name, Math.min(max, Math.max(min, end))]);
      }
      expect(step).toBeGreaterThan(0);
    }
  },
);

test('scores of the sections become a value of what climbs', () => {
  const plan = planOf({
    rows: [0, 1, 2, 3, 4].map((i) => ({ from: 1.4 + 4 * i, set: { flow: 0.9 + 0.05 * i } })),
  });
  const kind = good(kindFor(plan));
  expect(kind.finds).toEqual(['flow']);
  const finding = good(
    findValue(kind, plan, heron, {
      readings: [{ gaps: [0, 2, 4, 4, 4], ridges: [4, 4, 4, 2, 0] }],
    }),
  );
  expect(finding.values[0]).toMatchObject({ setting: 'flow' });
  expect(Math.abs(finding.values[0].value! - 1)).toBeLessThan(0.06);
});

test('of a value that climbs with every layer, a height measured with a caliper tells it', () => {
  const plan = planOf({
    rows: [{ from: 1.4, set: { advance: 0.1 } }],
    slope: { setting: 'advance', perMm: 0.02 },
  });
  const kind = good(kindFor(plan));
  expect(kind.measures!.map(({ key }) => key)).toEqual(['height']);
  const found = (height: number[]) =>
    findValue(kind, plan, heron, { readings: [], measured: [{ height }] });
  const finding = good(found([11.4]));
  expect(finding.values[0].value).toBeCloseTo(0.3, 3);
  const outside = found([90]);
  expect(outside.ok).toBe(false);
});

test('a ladder of a sliced file is not set up without its file', () => {
  const kind = good(kindFor({ kind: 'graft', spec: {} }));
  expect(whyNot(kind, heron)!.mend).toContain('Make a ladder of it');
  expect(makeLadder('graft', {}, heron).ok).toBe(false);
  expect(graftKind('flow').measures).toEqual([]);
});
