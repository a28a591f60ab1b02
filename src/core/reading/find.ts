/** The best place of all scores, and what is said when there is none or it lies outside. */

import { CRITERIA, type Criterion } from '../criteria';
import type { LadderKind } from '../ladders/types';
import { clamp, mean, quantile, short, snap, STEP_SLACK, tidy } from '../numbers';
import { seeded } from '../random';
import { ok, type Result } from '../result';
import { capital } from '../text';
import {
  addDraws,
  curveAt,
  evidence,
  jointEvidence,
  weighModels,
  type Data,
  type Model,
} from './curve';
import type { Finding } from './finding';
import { gather, type Case, type Gathered } from './gather';
import { beyond, nextOf, refine } from './refine';
import { criterionMeans, type Opinion } from './pool';

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

/** One criterion's curve along the axis. */
type Curve = { weight: number; data: Data; models: Model[] };

/** What every finding by scores says, whatever its verdict. */
type Base = Pick<Finding, 'evidence' | 'curve' | 'observations' | 'notes'>;

/**
 * Works out the value from all readings of one ladder, and of those that went before it. Each criterion has a
 * curve of its own; what is sought is the highest place of their weighed sum.
 */
export function findBest(given: Case): Result<Finding> {
  const gathered = gather(given, 'own', 'curve');
  if (!gathered.ok) return gathered;
  const all = gathered.value;
  const { kind } = given;
  const axis = axisOf(all);
  const curves = all.opinions.map(({ weight, values, y, noise }): Curve => {
    const data: Data = { x: values.map(axis.place), y, noise };
    return { weight, data, models: weighModels(data) };
  });
  const seen = jointEvidence(curves.map(({ data, models }) => evidence(data, models)));
  const base: Base = {
    evidence: tidy(seen),
    curve: pooledCurve(curves, axis),
    observations: all.observations,
    notes: [],
  };
  if (seen < LEAST_EVIDENCE) return ok(noEffect(base, all, kind));
  const drawn = drawBest(curves, axis, all.seed);
  const range = rangeOf(drawn, all, axis);
  const edge = edgeOf(drawn, axis);
  const ahead = edge && beyond(edge.end, edge.direction, axis.step, all.bounds);
  if (edge && (ahead || !isAt(edge.end, all)))
    return ok({
      ...base,
      verdict: 'edge',
      values: [{ setting: all.setting, value: null, range: tidyRange(range, all.info.resolution) }],
      done: false,
      reason: edgeReason(all, edge, ahead !== null),
      next: ahead && nextOf(all, ahead, 'It starts one rung before the end and goes on beyond it.'),
    });
  return ok(valueAt(base, all, kind, { drawn, range, edge }));
}

const noEffect = (base: Base, { setting }: Gathered, { otherCause }: LadderKind): Finding => ({
  ...base,
  verdict: 'no-effect',
  values: [{ setting, value: null, range: null }],
  done: false,
  reason: `Every rung looks the same to the eye. ${otherCause}`,
  next: null,
});

/** Weighed sum of the criteria's curves, with one standard deviation. */
function pooledCurve(curves: readonly Curve[], axis: ValueAxis): Finding['curve'] {
  const shown = curves.map(({ weight, data, models }) => ({
    weight,
    ...curveAt(data, axis.at, models),
  }));
  return axis.at.map((place, i) => {
    const mean = shown.reduce((sum, one) => sum + one.weight * one.mean[i]!, 0);
    const variance = shown.reduce((sum, one) => sum + (one.weight * one.deviation[i]!) ** 2, 0);
    const deviation = Math.sqrt(variance);
    return { value: tidy(axis.value(place)), mean, low: mean - deviation, high: mean + deviation };
  });
}

/** Places of the highest sum in draws of all curves together. */
function drawBest(curves: readonly Curve[], axis: ValueAxis, seed: number): number[] {
  const sums = Array.from({ length: DRAWS }, () => new Float64Array(axis.at.length));
  const random = seeded(seed);
  for (const { data, models, weight } of curves)
    addDraws(data, axis.at, models, weight, sums, random);
  return sums.map((sum) => axis.value(axis.at[highest(sum)]!));
}

/** Where the best lies in 8 of 10 cases: by the draws, and no narrower than what was not looked at. */
function rangeOf(
  drawn: readonly number[],
  { opinions }: Gathered,
  axis: ValueAxis,
): [number, number] {
  const middle = quantile(drawn, 0.5);
  const blind = (axis.step / 2) * jumpAt(middle, opinions, axis.step);
  return [
    Math.min(quantile(drawn, 0.5 - IN_RANGE / 2), Math.max(axis.low, middle - blind)),
    Math.max(quantile(drawn, 0.5 + IN_RANGE / 2), Math.min(axis.high, middle + blind)),
  ];
}

type Best = { drawn: readonly number[]; range: [number, number]; edge: Edge | null };

/** The best of all that this bench allows is a value, though nobody can look beyond it. */
function valueAt(
  base: Base,
  all: Gathered,
  kind: LadderKind,
  { drawn, range, edge }: Best,
): Finding {
  const { resolution } = all.info;
  const saferSide = kind.rule.kind === 'best' ? kind.rule.saferSide : 'lower';
  const value = edge ? tidy(edge.end) : snapSafely(quantile(drawn, 0.5), resolution, saferSide);
  const done = range[1] - range[0] < 2 * resolution;
  const finer = done ? null : refine(range, resolution, all.bounds);
  const last = edge ? 'It is the last value that this bench allows. ' : '';
  return {
    ...base,
    verdict: 'value',
    values: [{ setting: all.setting, value, range: tidyRange(range, resolution) }],
    done,
    reason: last + valueReason(kind, all, value),
    next: finer && nextOf(all, finer, 'A finer ladder around the best.'),
  };
}

const highest = (heights: Float64Array): number =>
  heights.reduce((best, height, i) => (height > heights[best]! ? i : best), 0);

type ValueAxis = ReturnType<typeof axisOf>;

/** The value axis on 0..1, whichever way the ladder climbs; earlier ladders may reach further than this one. */
function axisOf({ values, step, opinions }: Gathered) {
  const seen = opinions.flatMap((one) => one.values);
  const low = Math.min(...values, ...seen);
  const high = Math.max(...values, ...seen);
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

const isAt = (end: number, { bounds: { min, max }, step }: Gathered): boolean =>
  end <= min + STEP_SLACK * step || end >= max - STEP_SLACK * step;

type Edge = { end: number; direction: 1 | -1 };

/** The end in whose cell (half a step) the maximum sits more often than not. */
function edgeOf(drawn: readonly number[], { low, high, step }: ValueAxis): Edge | null {
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
  const tie = Math.abs(rest - 0.5) < STEP_SLACK;
  const up = tie ? saferSide === 'higher' : rest > 0.5;
  return tidy((up ? down + 1 : down) * resolution);
}

export const tidyRange = ([low, high]: [number, number], resolution: number): [number, number] => [
  snap(low, resolution),
  snap(high, resolution),
];

function edgeReason({ info }: Gathered, { end, direction }: Edge, open: boolean): string {
  const { unit, above, below } = info;
  const side = direction > 0 ? above : below;
  return open
    ? `The best rung is the last one, ${short(end)} ${unit}: the answer may be ${side} still.`
    : `The best rung is the last one, ${short(end)} ${unit}, and this bench does not allow ${side}.`;
}

/** What gets worse on either side, said with the criterion that drops most there. */
function valueReason(
  kind: LadderKind,
  { info: { above, below }, values, readings }: Gathered,
  best: number,
): string {
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
  return `${capital(text)}.`;
}
