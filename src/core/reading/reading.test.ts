import { climb } from '../ladders/climb';
import { benchFor, makeTemperature, temperatureKind, told } from '../testing';
import { normal, seeded } from '../random';
import { findBest, snapSafely } from './find';
import { defaultWeights } from './gather';
import { pool, weighed, asOne } from './pool';
import { beyond, refine } from './refine';
import type { Score, Scores } from './types';

const kind = temperatureKind();
const bench = benchFor();
const { plan } = makeTemperature();
const values = plan.rungs.map(({ set }) => set.nozzle!);
const names = kind.criteria.map(({ name }) => name);
const clamped = (score: number) => Math.max(0, Math.min(4, Math.round(score))) as Score;

/** Scores of all criteria from one true curve with noise of `noise` scores. */
function scoresFrom(truth: (value: number) => number, noise: number, seed: number): Scores {
  const random = seeded(seed);
  return Object.fromEntries(
    names.map((name) => [name, values.map((v) => clamped(truth(v) + noise * normal(random)))]),
  );
}
const peakAt =
  (best: number, width = 14) =>
  (value: number) =>
    4 * Math.exp(-((value - best) ** 2) / (2 * width ** 2));
const find = (...readings: Scores[]) => told(findBest({ kind, plan, bench, readings }));

long('a smooth peak with half a score of noise is found within one step in 19 of 20', () => {
  const hits = Array.from({ length: 20 }, (_, seed) => {
    const best = 198 + seed;
    const finding = find(scoresFrom(peakAt(best), 0.5, seed + 1));
    return finding.verdict === 'value' && Math.abs(finding.value! - best) <= 5;
  });
  expect(hits.filter(Boolean).length).toBeGreaterThanOrEqual(19);
});

test('flat scores with noise give no effect in 19 of 20', () => {
  const verdicts = Array.from({ length: 20 }, (_, seed) =>
    find(scoresFrom(() => 2.5, 0.5, seed + 500)),
  );
  const none = verdicts.filter(({ verdict }) => verdict === 'no-effect');
  expect(none.length).toBeGreaterThanOrEqual(19);
  expect(none[0]).toMatchObject({ value: null, range: null, next: null });
});

test.each([
  ['cool', 180, 'edge', 190],
  ['hot', 240, 'edge', 225],
])(
  'a best beyond the %s end is told as an edge, the next ladder moved',
  (_, best, verdict, end) => {
    const finding = find(scoresFrom(peakAt(best, 22), 0.3, 7));
    expect(finding.verdict).toBe(verdict);
    expect(finding.value).toBeNull();
    const { from, to, step } = finding.next!.range;
    const next = climb({ from, to, step });
    expect(next).toContain(end);
    expect(next.some((v) => (best > end ? v > end : v < end))).toBe(true);
    expect(from).toBeGreaterThan(to); // still hottest at the bottom
  },
);

test('the next ladder never leaves what the bench allows', () => {
  const narrow = benchFor();
  narrow.machine.extruder.hottest = 225;
  const scores = scoresFrom(peakAt(245, 22), 0.3, 7);
  const finding = told(findBest({ kind, plan, bench: narrow, readings: [scores] }));
  // The best that the bench allows is a value: nobody can look beyond it.
  expect(finding).toMatchObject({ verdict: 'value', value: 225 });
  expect(Math.max(finding.next!.range.from, finding.next!.range.to)).toBeLessThanOrEqual(225);
});

test('a second reading narrows the range', () => {
  const one = find(scoresFrom(peakAt(207), 0.5, 3));
  const many = find(...[3, 4, 5, 6].map((seed) => scoresFrom(peakAt(207), 0.5, seed)));
  const width = ({ range }: typeof one) => range![1] - range![0];
  expect(width(many)).toBeLessThan(width(one));
});

test('a ladder that went before narrows the range, and rungs outside this one count', () => {
  const finer = makeTemperature({ from: 212, to: 202, step: 2 });
  const at = finer.plan.rungs.map(({ set }) => set.nozzle!);
  const random = seeded(12);
  const scores: Scores = Object.fromEntries(
    names.map((name) => [name, at.map((v) => clamped(peakAt(207)(v) + 0.5 * normal(random)))]),
  );
  const before = { plan, readings: [scoresFrom(peakAt(207), 0.5, 3)] };
  const alone = told(findBest({ kind, plan: finer.plan, bench, readings: [scores] }));
  const both = told(
    findBest({ kind, plan: finer.plan, bench, readings: [scores], earlier: [before] }),
  );
  expect(both.verdict).toBe('value');
  expect(Math.abs(both.value! - 207)).toBeLessThanOrEqual(3);
  expect(both.curve[0]!.value).toBe(190);
  expect(both.evidence).toBeGreaterThan(alone.evidence);
});

test('criteria that pull to opposite sides are an effect, though their sum is flat', () => {
  const scores: Scores = {
    stringing: values.map((v) => clamped(4 - (v - 190) / 9)),
    'layer adhesion': values.map((v) => clamped((v - 190) / 9)),
  };
  expect(find(scores).verdict).not.toBe('no-effect');
});

test('the same scores and seed give the same finding', () => {
  const scores = scoresFrom(peakAt(205), 0.5, 9);
  expect(find(scores)).toEqual(find(scores));
});

test('the reason names what goes wrong on either side', () => {
  const scores: Scores = {
    stringing: values.map((v) => clamped(4 - Math.max(0, v - 205) / 5)),
    'layer adhesion': values.map((v) => clamped(4 - Math.max(0, 205 - v) / 4)),
  };
  const { reason } = find(scores);
  expect(reason).toContain('stringing');
  expect(reason).toContain('layer adhesion');
});

test('too few scored rungs are a problem, not a guess', () => {
  const few: Scores = { stringing: values.map((_, i) => (i < 2 ? 3 : null)) };
  expect(findBest({ kind, plan, bench, readings: [few] }).ok).toBe(false);
  expect(findBest({ kind, plan, bench, readings: [] }).ok).toBe(false);
});

test('one score that could not be told neither lifts nor lowers its rung', () => {
  const full: Scores = { stringing: [0, 2, 4], 'layer adhesion': [4, 4, 4] };
  const open: Scores = { stringing: [0, null, 4], 'layer adhesion': [4, 4, 4] };
  const weights = { stringing: 1, 'layer adhesion': 1 };
  const y = (scores: Scores) => weighed({ values: [1, 2, 3], scores }, weights).map((one) => one.y);
  expect(y(open)).toEqual(y(full));
});

test('noise has a floor, and repeats that disagree raise it', () => {
  const one: Scores = { stringing: [1, 2, 3] };
  const other: Scores = { stringing: [4, 0, 1] };
  const weights = { stringing: 1 };
  const noise = (...readings: Scores[]) =>
    pool(
      readings.map((scores) => ({ values: [1, 2, 3], scores })),
      weights,
    )[0]!.noise[0]!;
  const calm = noise(one, one);
  expect(calm).toBeGreaterThan(0.1);
  expect(noise(one, other)).toBeGreaterThan(calm);
});

test('a criterion without weight does not count', () => {
  const scores: Scores = { stringing: [4, 0, 4], 'layer adhesion': [0, 4, 0] };
  const look = { values: [1, 2, 3], scores };
  const weights = { stringing: 1, 'layer adhesion': 0 };
  expect(weighed(look, weights).map(({ y }) => y)).toEqual([1, 0, 1]);
  expect(pool([look], weights)).toMatchObject([{ name: 'stringing', weight: 1, y: [1, 0, 1] }]);
  expect(Object.keys(defaultWeights(kind))).toEqual(names);
});

test.each([
  [203.5, 'lower', 203],
  [203.5, 'higher', 204],
  [203.49, 'higher', 203],
  [203.51, 'lower', 204],
] as const)('%p snaps to the %s side on a tie', (value, side, wanted) => {
  expect(snapSafely(value, 1, side)).toBe(wanted);
});

test.each([
  [[200, 204], { min: 170, max: 260 }],
  [[199, 206], { min: 170, max: 260 }],
  [[170, 171], { min: 170, max: 260 }],
  [[190, 225], { min: 170, max: 260 }],
] as const)('around %j the next ladder has five to nine whole rungs within %j', (range, bounds) => {
  const next = refine(range, 1, bounds)!;
  const rungs = climb(next);
  expect(rungs.length).toBeGreaterThanOrEqual(5);
  expect(rungs.length).toBeLessThanOrEqual(9);
  expect(Math.min(...rungs)).toBeGreaterThanOrEqual(bounds.min);
  expect(Math.min(...rungs)).toBeLessThanOrEqual(Math.max(range[0], bounds.min));
  expect(Math.max(...rungs)).toBeGreaterThanOrEqual(range[1]);
  expect(rungs.at(-1)).toBe(next.to);
});

test('beyond an end with no room there is no ladder', () => {
  expect(beyond(258, 1, 5, { min: 170, max: 260 })).toBeNull();
  expect(beyond(250, 1, 5, { min: 170, max: 260 })).toEqual({ from: 245, to: 260, step: 5 });
});

test('several scores are one that is surer than each, and the surer ones count for more', () => {
  const alike = asOne([
    { y: 0.2, noise: 0.1 },
    { y: 0.6, noise: 0.1 },
  ]);
  expect(alike.y).toBeCloseTo(0.4, 12);
  expect(alike.noise).toBeCloseTo(0.1 / Math.SQRT2, 12);
  const uneven = asOne([
    { y: 0.2, noise: 0.05 },
    { y: 0.6, noise: 0.5 },
  ]);
  expect(uneven.y).toBeLessThan(0.21);
  expect(uneven.noise).toBeLessThan(0.05);
});

test('a reading of the loupe keeps its own noise, and says nothing of how eyes scatter', () => {
  const eye = { values: [1, 2, 3], scores: { stringing: [1, 2, 3] } };
  const told = { stringing: [3.5, null, 0.5] };
  const loupe = { values: [1, 2, 3], scores: told, noise: { stringing: [0.4, null, 0.8] } };
  const [alone] = pool([eye], { stringing: 1 });
  const [both] = pool([eye, loupe], { stringing: 1 });
  expect(both!.y).toEqual([0.25, 0.5, 0.75, 0.875, 0.125]);
  expect(both!.noise).toEqual([...alone!.noise, 0.1, 0.2]);
});
