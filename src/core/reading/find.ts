/** From scores to a value: the finding. */

import type { Bench } from '../bench/bench';
import { climb, FEWEST_RUNGS, type Range } from '../ladders/climb';
import { CRITERIA, type Criterion } from '../criteria';
import type { PlanFile } from '../ladders/plan-file';
import { settingInfo, type Setting } from '../settings';
import type { LadderKind } from '../ladders/types';
import { clamp, mean, quantile, short, snap, tidy } from '../numbers';
import { seeded } from '../random';
import { fail, ok, problem, type Result } from '../result';
import { addDraws, curveAt, evidence, jointEvidence, weighModels, type Data } from './curve';
import { beyond, refine } from './refine';
import { criterionMeans, pool, weighed, type Look, type Opinion } from './pool';
import type { Scores, Weights } from './types';

export type Verdict = 'value' | 'no-effect' | 'edge';

export type Finding = {
  verdict: Verdict;
  setting: Setting;
  unit: string;
  /** Proposed value, snapped to what the machine can take; null unless the verdict is `value`. */
  value: number | null;
  /** Where the best lies in 8 of 10 such findings; null when there is no effect. */
  range: [number, number] | null;
  /** The range is as narrow as the machine's own steps: another ladder would not help. */
  done: boolean;
  /** One sentence for a person. */
  reason: string;
  /** Log evidence of a curve over a constant. */
  evidence: number;
  next: { range: Range; rungs: number; why: string } | null;
  /** The curve along the axis: pooled score 0..1 with one standard deviation. */
  curve: { value: number; mean: number; low: number; high: number }[];
  observations: { value: number; score: number }[];
  /** Further settings that the same print tells. */
  also: { setting: Setting; value: number; range: [number, number] }[];
  /** Other things that were noticed on the way. */
  notes: string[];
};

/** Under this much log evidence the constant explains the scores as well as a curve does. */
export const LEAST_EVIDENCE = 1.5;
/** Share of draws in an end cell above which the answer may lie outside. */
const EDGE_SHARE = 0.5;
const DRAWS = 1000;
/**
 * Central share of the draws that is told as the 80 % range. The kernels allow wiggles that faults of prints do
 * not have, so that the central 80 % of the draws held the best in 99 of 100 readings of plain rising and falling
 * faults; the central half holds it in 8 of 10 (npm run bench, coverage).
 */
const IN_RANGE = 0.5;
/** Points of the axis between two rungs. */
const POINTS_PER_STEP = 10;
const MOST_POINTS = 120;

/** Weights that a kind starts with. */
export const defaultWeights = (kind: LadderKind): Weights =>
  Object.fromEntries(kind.criteria.map(({ name, weight }) => [name, weight]));

/** Another ladder of the same bench and form, whose readings count too. */
export type Earlier = { plan: PlanFile; readings: readonly Scores[] };

/**
 * Works out the value from all readings of one ladder, and of those that went before it. Each criterion has a
 * curve of its own; what is sought is the highest place of their weighed sum.
 *
 * @param seed of the posterior draws; the same input gives the same finding
 */
export function findBest(
  kind: LadderKind,
  plan: PlanFile,
  bench: Bench,
  readings: readonly Scores[],
  weights: Weights = defaultWeights(kind),
  seed = 1,
  earlier: readonly Earlier[] = [],
): Result<Finding> {
  const valuesOf = ({ rungs }: PlanFile) => rungs.map(({ set }) => set[kind.setting]!);
  const values = valuesOf(plan);
  const looks: Look[] = [{ plan, readings }, ...earlier].flatMap((one) =>
    one.readings.map((scores) => ({ values: valuesOf(one.plan), scores })),
  );
  const own = pool(looks.slice(0, readings.length), weights);
  const scored = new Set(own.flatMap((one) => one.values));
  if (scored.size < FEWEST_RUNGS)
    return tooFew(looks.slice(0, readings.length), scored.size, 'curve');
  const { resolution, unit } = settingInfo(kind.setting);
  const opinions = pool(looks, weights);
  const axis = axisOf(
    values,
    opinions.flatMap((one) => one.values),
  );
  const curves = opinions.map(({ weight, values: at, y, noise }) => {
    const data: Data = { x: at.map(axis.place), y, noise };
    return { weight, data, models: weighModels(data) };
  });
  const seen = jointEvidence(curves.map(({ data, models }) => evidence(data, models)));
  const shown = curves.map(({ weight, data, models }) => ({
    weight,
    ...curveAt(data, axis.at, models),
  }));
  const base = {
    setting: kind.setting,
    unit,
    also: [],
    notes: [],
    evidence: tidy(seen),
    curve: axis.at.map((place, i) => {
      const mean = shown.reduce((sum, one) => sum + one.weight * one.mean[i]!, 0);
      const variance = shown.reduce((sum, one) => sum + (one.weight * one.deviation[i]!) ** 2, 0);
      const deviation = Math.sqrt(variance);
      return {
        value: tidy(axis.value(place)),
        mean,
        low: mean - deviation,
        high: mean + deviation,
      };
    }),
    observations: looks.flatMap((look) =>
      weighed(look, weights).map(({ value, y }) => ({ value, score: y })),
    ),
  };
  if (seen < LEAST_EVIDENCE) {
    const reason = `Every rung looks the same within what an eye can tell. ${kind.otherCause}`;
    return ok({
      ...base,
      verdict: 'no-effect',
      value: null,
      range: null,
      done: false,
      reason,
      next: null,
    });
  }
  const sums = Array.from({ length: DRAWS }, () => new Float64Array(axis.at.length));
  const random = seeded(seed);
  for (const { data, models, weight } of curves)
    addDraws(data, axis.at, models, weight, sums, random);
  const drawn = sums.map((sum) => axis.value(axis.at[highest(sum)]!));
  const middle = quantile(drawn, 0.5);
  const blind = (axis.step / 2) * jumpAt(middle, opinions, axis.step);
  const range: [number, number] = [
    Math.min(quantile(drawn, 0.5 - IN_RANGE / 2), Math.max(axis.low, middle - blind)),
    Math.max(quantile(drawn, 0.5 + IN_RANGE / 2), Math.min(axis.high, middle + blind)),
  ];
  const bounds = kind.bounds(bench);
  const edge = edgeOf(drawn, axis);
  const ahead = edge && beyond(edge.end, edge.direction, axis.step, bounds);
  if (edge && (ahead || !isAt(edge.end, bounds))) {
    return ok({
      ...base,
      verdict: 'edge',
      value: null,
      range: tidyRange(range, resolution),
      done: false,
      reason: edgeReason(kind, edge, ahead !== null),
      next: ahead && nextOf(plan, ahead, 'One rung back over the end, the others beyond it.'),
    });
  }
  const saferSide = kind.rule.kind === 'best' ? kind.rule.saferSide : 'lower';
  // The best of all that this bench allows is a value, though nobody can look beyond it.
  const value = edge ? tidy(edge.end) : snapSafely(middle, resolution, saferSide);
  const done = range[1] - range[0] < 2 * resolution;
  const finer = done ? null : refine(range, resolution, bounds);
  return ok({
    ...base,
    verdict: 'value',
    value,
    range: tidyRange(range, resolution),
    done,
    reason:
      (edge ? 'It is the last value that this bench allows. ' : '') +
      valueReason(kind, values, readings, value),
    next: finer && nextOf(plan, finer, 'A finer ladder around the best.'),
  });
}

/** Too little was scored to say anything, or what was scored does not count. */
export function tooFew(looks: readonly Look[], counted: number, what: string): Result<never> {
  const rungs = looks[0]?.values.length ?? 0;
  const scored = new Set(
    looks.flatMap(({ values, scores }) =>
      values.filter((_, rung) =>
        Object.values(scores).some((list) => typeof list[rung] === 'number'),
      ),
    ),
  ).size;
  if (scored >= FEWEST_RUNGS && scored > counted)
    return fail(
      problem(
        'weights',
        `${scored} of ${rungs} rungs have a score, but what was scored has a weight of 0.`,
        'Turn a weight up: what counts is for you to say.',
      ),
    );
  return fail(
    problem(
      'scores',
      `${scored} of ${rungs} rungs have a score; a ${what} needs at least ${FEWEST_RUNGS}.`,
      'Score more rungs.',
    ),
  );
}

const highest = (heights: Float64Array): number =>
  heights.reduce((best, height, i) => (height > heights[best]! ? i : best), 0);

/** The value axis on 0..1, whichever way the ladder climbs; earlier ladders may reach further than this one. */
function axisOf(values: readonly number[], seen: readonly number[]) {
  const low = Math.min(...values, ...seen);
  const high = Math.max(...values, ...seen);
  const step = (Math.max(...values) - Math.min(...values)) / (values.length - 1);
  const points = Math.min(MOST_POINTS, Math.round(((high - low) / step) * POINTS_PER_STEP));
  return {
    low,
    high,
    step: tidy(step),
    at: Array.from({ length: points + 1 }, (_, i) => i / points),
    place: (value: number) => (value - low) / (high - low),
    value: (place: number) => low + place * (high - low),
  };
}

/**
 * How far scores of a criterion jump, 0..1, between the best rung and its neighbours; the largest of all criteria.
 * Where they jump from poor to clean between two rungs, nothing was seen of what lies between, however smooth a
 * curve is drawn there.
 */
function jumpAt(place: number, opinions: readonly Opinion[], step: number): number {
  const jumps = opinions.flatMap(({ values, y }) => {
    const near = (value: number) => y.filter((_, i) => Math.abs(values[i]! - value) < 0.5 * step);
    const best = near(place);
    const sides = [near(place - step), near(place + step)].filter(({ length }) => length > 0);
    return best.length === 0 ? [] : sides.map((side) => mean(best) - mean(side));
  });
  return clamp(Math.max(0, ...jumps), 0, 1);
}

const isAt = (end: number, { min, max }: { min: number; max: number }): boolean =>
  end <= min + 1e-9 || end >= max - 1e-9;

type Edge = { end: number; direction: 1 | -1 };

/** The end in whose cell (half a step) the maximum sits more often than not. */
function edgeOf(
  drawn: readonly number[],
  { low, high, step }: ReturnType<typeof axisOf>,
): Edge | null {
  const share = (inCell: (value: number) => boolean) => drawn.filter(inCell).length / drawn.length;
  if (share((value) => value < low + step / 2) > EDGE_SHARE) return { end: low, direction: -1 };
  if (share((value) => value > high - step / 2) > EDGE_SHARE) return { end: high, direction: 1 };
  return null;
}

/** Nearest value that the machine can take; halfway between two, the safer one. */
export function snapSafely(
  value: number,
  resolution: number,
  saferSide: 'lower' | 'higher',
): number {
  const steps = value / resolution;
  const down = Math.floor(steps);
  const rest = steps - down;
  const tie = Math.abs(rest - 0.5) < 1e-6;
  const up = tie ? saferSide === 'higher' : rest > 0.5;
  return tidy((up ? down + 1 : down) * resolution);
}

export const tidyRange = ([low, high]: [number, number], resolution: number): [number, number] => [
  snap(low, resolution),
  snap(high, resolution),
];

/** The next ladder climbs the same way as this one. */
export function nextOf(plan: PlanFile, range: Range, why: string): Finding['next'] {
  const first = plan.rungs[0]!.set;
  const last = plan.rungs.at(-1)!.set;
  const key = Object.keys(first)[0] as Setting;
  const falls = first[key]! > last[key]!;
  const [low, high] = [Math.min(range.from, range.to), Math.max(range.from, range.to)];
  const turned = falls ? { ...range, from: high, to: low } : { ...range, from: low, to: high };
  return { range: turned, rungs: climb(turned).length, why };
}

function edgeReason(kind: LadderKind, { end, direction }: Edge, open: boolean): string {
  const { unit, above, below } = settingInfo(kind.setting);
  const side = direction > 0 ? above : below;
  return open
    ? `The best rung is the last one, ${short(end)} ${unit}: the answer may lie ${side} still.`
    : `The best rung is the last one, ${short(end)} ${unit}, and this bench does not allow ${side}.`;
}

/** What gets worse on either side, said with the criterion that drops most there. */
function valueReason(
  kind: LadderKind,
  values: readonly number[],
  readings: readonly Scores[],
  best: number,
): string {
  const { above, below } = settingInfo(kind.setting);
  const means = kind.criteria.map(({ name }) => ({
    name,
    list: criterionMeans(readings, name, values.length),
  }));
  const near = values.reduce(
    (a, b, i) => (Math.abs(b - best) < Math.abs(values[a]! - best) ? i : a),
    0,
  );
  const worst = (side: (value: number) => boolean) => {
    let found: { name: Criterion; drop: number } | null = null;
    for (const { name, list } of means) {
      const peak = list[near];
      if (peak === null || peak === undefined) continue;
      list.forEach((score, i) => {
        if (score === null || !side(values[i]!)) return;
        if (!found || peak - score > found.drop) found = { name, drop: peak - score };
      });
    }
    return found as { name: Criterion; drop: number } | null;
  };
  const clause = (word: string, found: { name: Criterion; drop: number } | null) =>
    found && found.drop >= 1 ? `${word}: ${CRITERIA[found.name].poor} (${found.name})` : null;
  const clauses = [
    clause(
      below,
      worst((value) => value < best),
    ),
    clause(
      above,
      worst((value) => value > best),
    ),
  ].filter((text) => text !== null);
  if (clauses.length === 0)
    return 'The scores are highest here, though no single criterion decides it.';
  const text = clauses.join('; ');
  return `${text[0]!.toUpperCase()}${text.slice(1)}.`;
}
