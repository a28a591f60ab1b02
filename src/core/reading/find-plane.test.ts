import { axisOf, cellsOf } from '../plan/axes';
import type { Plan } from '../plan/plan';
import { heatRetraction } from '../ladders/grid/heat-retraction';
import type { LadderKind } from '../ladders/types';
import { mean } from '../numbers';
import { normal, seeded } from '../random';
import { benchFor, good } from '../testing';
import { findPlane } from './find-plane';
import { nextInWords } from './finding';
import type { Scores } from './types';

const bench = benchFor();
const kind = heatRetraction as unknown as LadderKind;
const NOZZLE = [190, 196, 202, 208, 214, 220];
const RETRACTION = [1, 1.8, 2.6, 3.4, 4.2, 5];

function planOf(nozzle = NOZZLE, retraction = RETRACTION): Plan {
  const axes = [axisOf('nozzle', nozzle, 'z'), axisOf('retraction', retraction, 'x')];
  const rungs = cellsOf(axes).map(({ at, set }, index) => ({ index, at, set }));
  return { axes, rungs } as unknown as Plan;
}

/** Scores of readers whose noise is half a score, of a surface 0..4. */
function scored(plan: Plan, surface: (heat: number, mm: number) => number, readers = 3, seed = 1) {
  const random = seeded(seed);
  return Array.from({ length: readers }, (): Scores => {
    const stringing = plan.rungs.map(({ set }) => {
      const seen = surface(set.nozzle!, set.retraction!) + 0.5 * normal(random);
      return Math.min(4, Math.max(0, Math.round(seen))) as 0;
    });
    return { stringing };
  });
}
const find = (plan: Plan, readings: Scores[], least: ('retraction' | 'nozzle')[] = []) =>
  good(findPlane({ kind, plan, bench, readings }, least));

test('the top of a hill is found in both settings, and neither depends on the other', () => {
  const plan = planOf();
  const hill = (heat: number, mm: number) => 4 - ((heat - 206) / 8) ** 2 - ((mm - 3) / 1.1) ** 2;
  const found = find(plan, scored(plan, hill));
  const [heat, mm] = found.values;
  expect(found.verdict).toBe('value');
  expect(Math.abs(heat.value! - 206)).toBeLessThanOrEqual(6);
  expect(Math.abs(mm!.value! - 3)).toBeLessThanOrEqual(0.8);
  expect(found.plane!.depends).toEqual({ a: null, b: null });
  expect(found.reason).toContain('Nozzle temperature is the same for any retraction distance');
  expect(found.plane!.mean).toHaveLength(found.plane!.a.length);
  expect(found.plane!.mean[0]).toHaveLength(found.plane!.b.length);
  expect(Object.keys(found.next!.ranges)).toEqual(['nozzle', 'retraction']);
  expect(found.next!.rungs).toBeLessThanOrEqual(25);
});

test('a ridge says which way one setting drifts with the other, and its slices follow', () => {
  const plan = planOf();
  const ridge = (heat: number, mm: number) => {
    const wanted = 1.6 + (heat - 190) * 0.09;
    return 3.8 - ((mm - wanted) / 0.8) ** 2 - ((heat - 206) / 22) ** 2;
  };
  const { plane, reason } = find(plan, scored(plan, ridge));
  expect(plane!.depends.b).toBe('rises');
  expect(reason).toContain(
    'Retraction distance depends on nozzle temperature: hotter there wants more.',
  );
  const slices = plane!.slices.b;
  expect(slices.map(({ at }) => at)).toEqual(NOZZLE);
  expect(slices.at(-1)!.best - slices[0]!.best).toBeGreaterThan(1.2);
});

test('a setting that makes no difference is told so, and the other one is still found', () => {
  const plan = planOf();
  const wall = (heat: number) => 3.9 - ((heat - 203) / 9) ** 2;
  const found = find(plan, scored(plan, wall));
  const [heat, mm] = found.values;
  expect(mm).toEqual({ setting: 'retraction', value: null, range: null });
  expect(Math.abs(heat.value! - 203)).toBeLessThanOrEqual(6);
  expect(found.reason).toContain('Retraction distance makes no difference');
  expect(Object.keys(found.next!.ranges)).toEqual(['nozzle']);
});

test('nothing that differs is no effect; too few scores are no finding', () => {
  const plan = planOf();
  const flat = find(
    plan,
    scored(plan, () => 2.2),
  );
  expect(flat.verdict).toBe('no-effect');
  expect(flat.values.map(({ value }) => value)).toEqual([null, null]);
  const few = findPlane({ kind, plan, bench, readings: [{ stringing: [1, 2, 3] }] }, []);
  expect(few).toMatchObject({ ok: false, problems: [{ where: 'scores' }] });
});

test('a best in the last row goes on beyond it', () => {
  const plan = planOf();
  const found = find(
    plan,
    scored(plan, (heat, mm) => 1 + (heat - 190) / 11 - (mm - 3) ** 2 / 2),
  );
  expect(found.verdict).toBe('edge');
  expect(found.values[0].value).toBeNull();
  expect(found.next!.ranges.nozzle!.to).toBeGreaterThan(220);
});

test('of what costs something the least that is as good is taken', () => {
  const plan = planOf();
  // Threads are gone from 2.6 mm on, whatever comes above.
  const plateau = (heat: number, mm: number) => Math.min(3.9, 1.5 * mm) - ((heat - 205) / 12) ** 2;
  const [, mm] = find(plan, scored(plan, plateau), ['retraction']).values;
  expect(mm!.value!).toBeLessThan(3.5);
  expect(mm!.value!).toBeGreaterThan(1.7);
});

long('the least is not pushed up by the noise of the best it is held against', () => {
  const plan = planOf();
  // As good as the best from 2.39 mm on; columns are 0.8 mm apart.
  const plateau = (heat: number, mm: number) => Math.min(3.9, 1.5 * mm) - ((heat - 205) / 12) ** 2;
  const found = Array.from({ length: 20 }, (_, i) => {
    const [, mm] = find(plan, scored(plan, plateau, 1, 40 + i), ['retraction']).values;
    return mm!.value!;
  });
  expect(Math.abs(mean(found) - 2.39)).toBeLessThan(0.55);
});

test('a best near the last row, but not in it, is a value', () => {
  const plan = planOf();
  const hill = (heat: number, mm: number) => 4 - ((heat - 216) / 8) ** 2 - ((mm - 3) / 1.1) ** 2;
  const found = Array.from({ length: 12 }, (_, i) => find(plan, scored(plan, hill, 1, 70 + i)));
  const values = found.filter(({ verdict }) => verdict === 'value');
  expect(values.length).toBeGreaterThanOrEqual(10);
  for (const { values: both } of values)
    expect(Math.abs(both[0].value! - 216)).toBeLessThanOrEqual(6);
});

long('the joint best lies in its ranges about as often as they say', () => {
  const plan = planOf();
  let [inside, near, all, steps] = [0, 0, 0, 0];
  const ROUNDS = 24;
  for (let seed = 1; seed <= ROUNDS; seed++) {
    const random = seeded(900 + seed);
    const [heat, mm] = [198 + 14 * random(), 1.8 + 2.4 * random()];
    const hill = (x: number, y: number) => 4 - ((x - heat) / 9) ** 2 - ((y - mm) / 1.2) ** 2;
    const { values } = find(plan, scored(plan, hill, 1, seed));
    const [one, two] = values;
    if (one.value === null || two!.value === null) continue;
    all += 2;
    near += Number(Math.abs(one.value - heat) <= 6) + Number(Math.abs(two!.value - mm) <= 0.8);
    steps += (one.range![1] - one.range![0]) / 6 + (two!.range![1] - two!.range![0]) / 0.8;
    inside += Number(heat >= one.range![0] && heat <= one.range![1]);
    inside += Number(mm >= two!.range![0] && mm <= two!.range![1]);
  }
  expect(all).toBeGreaterThan(ROUNDS);
  expect(near / all).toBeGreaterThan(0.85);
  // A hill as smooth as the surfaces that are drawn is known better than is said; prints are rougher.
  expect(inside / all).toBeGreaterThan(0.8);
  expect(steps / all).toBeLessThan(1.3);
});

test('a plane of fifteen by fifteen is worked out', () => {
  const many = (from: number, step: number) =>
    Array.from({ length: 15 }, (_, i) => from + i * step);
  const plan = planOf(many(190, 2), many(1, 0.3));
  const hill = (heat: number, mm: number) => 4 - ((heat - 203) / 9) ** 2 - ((mm - 3) / 1.2) ** 2;
  const readings = scored(plan, hill);
  const found = find(plan, readings);
  expect(Math.abs(found.values[0].value! - 203)).toBeLessThanOrEqual(3);
});

/** The best row of each column, as somebody compares them whose noise is half a score. */
function compared(plan: Plan, surface: (heat: number, mm: number) => number, seed: number) {
  const random = seeded(seed);
  const columns = plan.axes[1]!.steps.length;
  return Array.from({ length: columns }, (_, column) => {
    const cells = plan.rungs.filter(({ at }) => at[1] === column);
    const seen = cells.map(
      ({ set }) => surface(set.nozzle!, set.retraction!) + 0.5 * normal(random),
    );
    return cells[seen.indexOf(Math.max(...seen))]!.index;
  });
}

test('the best row of each column tells what climbs upward, and says what it does not tell', () => {
  const plan = planOf();
  const hill = (heat: number, mm: number) => 4 - ((heat - 206) / 8) ** 2 - ((mm - 3) / 1.1) ** 2;
  const best = compared(plan, hill, 5);
  const { values, notes } = good(
    findPlane({ kind, plan, bench, readings: [{}], measured: [{ best }] }, []),
  );
  expect(Math.abs(values[0].value! - 206)).toBeLessThanOrEqual(6);
  expect(values[1]!.value).toBeNull();
  expect(notes.join()).toContain('Only rows of a column were compared');
});

test('rows that were compared and a few scores together tell both settings, and a ridge', () => {
  const plan = planOf();
  const ridge = (heat: number, mm: number) =>
    4 - ((heat - 196 - 3.5 * mm) / 7) ** 2 - ((mm - 3) / 1.3) ** 2;
  const best = compared(plan, ridge, 7);
  const stringing = plan.rungs.map(({ index, set }) =>
    best.includes(index)
      ? (Math.round(Math.max(0, ridge(set.nozzle!, set.retraction!))) as 0)
      : null,
  );
  const { values, plane, notes } = good(
    findPlane({ kind, plan, bench, readings: [{ stringing }], measured: [{ best }] }, []),
  );
  expect(Math.abs(values[0].value! - 206.5)).toBeLessThanOrEqual(6);
  expect(Math.abs(values[1]!.value! - 3)).toBeLessThanOrEqual(0.8);
  expect(plane!.depends.a).toBe('rises');
  expect(notes).toEqual([]);
});

test('a next grid says what it climbs, and that the other side stays as it was', () => {
  const by = { from: 200, to: 210, step: 5 };
  const retraction = { from: 1, to: 2, step: 0.5 };
  expect(nextInWords({ ranges: { nozzle: by, retraction }, rungs: 9, why: '', grid: true })).toBe(
    '200 to 210 °C by 5 × 1 to 2 mm by 0.5, 9 cells',
  );
  expect(nextInWords({ ranges: { nozzle: by }, rungs: 18, why: '', grid: true })).toBe(
    '200 to 210 °C by 5, the other as it was, 18 cells',
  );
  expect(nextInWords({ ranges: { nozzle: by }, rungs: 3, why: '' })).toBe(
    '200 to 210 °C by 5, 3 rungs',
  );
});
