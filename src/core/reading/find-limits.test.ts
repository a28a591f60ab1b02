import { benchFor, good } from '../testing';
import { makeLadder } from '../ladders/make';
import { kindOf } from '../ladders/registry';
import type { Plan } from '../plan/plan';
import { normal, seeded } from '../random';
import { findValue } from './find-value';
import { rowsOfFinding } from './found-rows';
import { rowsCsv, rowsText, USUAL_STYLE } from './rows';
import type { Score, Scores } from './types';

const bench = benchFor('wren');
const planOf = (id: string) => good(makeLadder(id, {}, bench)).plan;
const whole = (score: number) => Math.max(0, Math.min(4, Math.round(score))) as Score;
const find = (id: string, plan: Plan, readings: Scores[]) =>
  findValue(good(kindOf(id)), plan, bench, { readings });

describe('lean and speed', () => {
  const plan = planOf('lean-speed');
  /** Clean under a speed that falls by 3 mm/s a degree, 2.5 at the limit. */
  const limit = (lean: number) => 40 - 3 * (lean - 54);
  const scored = (seed: number, noise = 0.4): Scores => {
    const random = seeded(seed);
    return {
      overhang: plan.rungs.map(({ set }) =>
        whole(2.5 - (set.wallSpeed! - limit(set.overhang!)) / 14 + noise * normal(random)),
      ),
    };
  };

  test('each lean has the fastest speed that is clean, and the safest of all is the one value', () => {
    const { limits, values, verdict } = good(
      find(
        'lean-speed',
        plan,
        [1, 2, 3].map((n) => scored(n)),
      ),
    );
    expect(verdict).toBe('value');
    const { step } = plan.spec as { columnStep: number; step: number };
    expect(step).toBeGreaterThan(0);
    for (const { at, value, open } of limits!.rows) {
      if (value === null) continue;
      if (open) expect(limit(at)).toBeGreaterThan(70);
      else expect(Math.abs(value - limit(at))).toBeLessThan(16);
    }
    const known = limits!.rows.flatMap(({ value }) => value ?? []);
    expect(values[0].value).toBe(Math.min(...known));
  });

  long('a steeper lean never gets more speed, however scores scatter', () => {
    for (let seed = 1; seed <= 12; seed++) {
      const found = find('lean-speed', plan, [scored(seed, 1)]);
      const rows = good(found).limits!.rows.filter(({ value }) => value !== null);
      rows
        .slice(1)
        .forEach(({ value }, i) => expect(value!).toBeLessThanOrEqual(rows[i]!.value! + 3));
    }
  });

  test('cells that nobody scored are told by those around them', () => {
    const given = scored(4);
    given.overhang = given.overhang!.map((score, i) => (i % 4 === 1 ? null : score));
    expect(good(find('lean-speed', plan, [given, scored(5)])).limits!.rows).toHaveLength(5);
  });

  test('its rows are kept and pasted by what they are', () => {
    const finding = good(find('lean-speed', plan, [scored(1)]));
    const rows = rowsOfFinding(finding);
    expect(rows.length).toBe(finding.limits!.rows.filter(({ value }) => value !== null).length);
    expect(Object.keys(rows[0]!).sort()).toEqual(['lean', 'speed']);
    // What was chosen for a map and is not here is left out: the rest is written.
    expect(rowsText(rows, USUAL_STYLE).split('\n')[0]).toMatch(/^\d+, \d+$/);
    expect(rowsCsv(rows).split('\r\n')[0]).toBe('Lean (°),Speed (mm/s)');
  });

  test('nothing clean anywhere, and too few cells, are said so', () => {
    const poor = good(find('lean-speed', plan, [{ overhang: plan.rungs.map(() => 0) }]));
    expect(poor.reason).toContain('Nothing is clean anywhere');
    // No step slower than was printed is left.
    expect(poor.verdict).toBe('no-effect');
    const fast = good(
      makeLadder('lean-speed', { left: 40, right: 76, columnStep: 12 }, bench),
    ).plan;
    const slower = good(find('lean-speed', fast, [{ overhang: fast.rungs.map(() => 0) }]));
    expect(slower.verdict).toBe('edge');
    expect(slower.next!.grid).toBe(true);
    expect(slower.next!.ranges.wallSpeed!.to).toBeLessThan(40);
    const clean = good(find('lean-speed', plan, [{ overhang: plan.rungs.map(() => 4) }]));
    expect(clean.limits!.rows.every(({ open }) => open)).toBe(true);
    expect(
      Math.max(clean.next!.ranges.wallSpeed!.from, clean.next!.ranges.wallSpeed!.to),
    ).toBeGreaterThan(Math.max(...plan.rungs.map(({ set }) => set.wallSpeed!)));
    const few = find('lean-speed', plan, [{ overhang: [3, 3, 2] as Score[] }]);
    expect(few.ok ? '' : few.problems[0]!.what).toContain('Too few cells');
  });
});

test('lean and fan: the least air that holds, more of it the steeper', () => {
  const plan = planOf('lean-fan');
  const overhang = plan.rungs.map(({ set }) =>
    whole(2.5 + (set.fan! - 0.4 - (set.overhang! - 54) / 30) * 5),
  );
  const { limits } = good(find('lean-fan', plan, [{ overhang }, { overhang }]));
  const known = limits!.rows.filter(({ value }) => value !== null);
  expect(known.length).toBeGreaterThan(2);
  known
    .slice(1)
    .forEach(({ value }, i) => expect(value!).toBeGreaterThanOrEqual(known[i]!.value! - 0.05));
  const at54 = limits!.rows.find(({ at }) => at === 54)!;
  expect(Math.abs(at54.value! - 0.4)).toBeLessThan(0.3);
});

test('shaper check: the hardest clean acceleration without and with the shaper, the latter is the value', () => {
  const plan = planOf('shaper-check');
  const ringing = plan.rungs.map(({ set }) => {
    const limit = set.shaperX === 0 ? 2000 : 7000;
    return whole(2.5 - 2.5 * Math.log(set.acceleration! / limit));
  });
  const { limits, values, verdict } = good(find('shaper-check', plan, [{ ringing }]));
  expect(verdict).toBe('value');
  const [without, withIt] = limits!.rows;
  expect(without!.at).toBe(0);
  expect(without!.value! / 2000).toBeLessThan(1.25);
  expect(without!.value! / 2000).toBeGreaterThan(0.6);
  expect(withIt!.value! / 7000).toBeGreaterThan(0.6);
  expect(values[0]).toMatchObject({ setting: 'acceleration', value: withIt!.value });
});
