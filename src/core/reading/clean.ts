/**
 * The least or the most of a setting that is still clean. For each criterion the scores are fitted with a sequence
 * that only gets better toward the clean side (isotonic regression); where these together, by their weights, pass
 * "good" is what is sought, and how sure that is, redrawing the scores within their noise tells (bootstrap; B. Efron, Ann. Statist. 7, 1979).
 */

import type { Bench } from '../bench/bench';
import { CRITERIA, type Criterion } from '../criteria';
import type { PlanFile } from '../ladders/plan-file';
import type { LadderKind } from '../ladders/types';
import { mean, quantile, short, tidy } from '../numbers';
import { normal, seeded, type Random } from '../random';
import { ok, type Result } from '../result';
import { settingInfo } from '../settings';
import { evidence, jointEvidence, weighModels } from './curve';
import { FEWEST_RUNGS } from '../ladders/climb';
import { LEAST_EVIDENCE, nextOf, tidyRange, tooFew, type Earlier, type Finding } from './find';
import { isotonic } from './isotonic';
import { pool, weighed, type Look, type Opinion } from './pool';
import { beyond, refine } from './refine';
import { BEST_SCORE, type Scores, type Weights } from './types';

/** Scores from here on round to "good". */
export const GOOD = 2.5 / BEST_SCORE;
/** Chance of being clean that the proposed value must have. */
const SURE = 0.7;
const DRAWS = 600;
/** Share of draws beyond an end above which the answer may lie outside. */
const EDGE_SHARE = 0.5;

/** Values in the order in which prints get cleaner, and the fit of one criterion over them. */
type Fit = {
  name: Criterion;
  weight: number;
  values: number[];
  mean: number[];
  count: number[];
  noise: number;
};

export function findClean(
  kind: LadderKind,
  end: 'least' | 'most',
  plan: PlanFile,
  bench: Bench,
  readings: readonly Scores[],
  weights: Weights,
  seed = 1,
  earlier: readonly Earlier[] = [],
): Result<Finding> {
  const valuesOf = ({ rungs }: PlanFile) => rungs.map(({ set }) => set[kind.setting]!);
  const looks: Look[] = [{ plan, readings }, ...earlier].flatMap((one) =>
    one.readings.map((scores) => ({ values: valuesOf(one.plan), scores })),
  );
  const scored = new Set(pool(looks, weights).flatMap((one) => one.values));
  if (scored.size < FEWEST_RUNGS) return tooFew(looks, scored.size, 'limit');
  const { resolution, unit, above, below } = settingInfo(kind.setting);
  const opinions = pool(looks, weights);
  const order = end === 'least' ? 1 : -1;
  const fits = opinions.map((one) => fitOf(one, order));
  const effects = opinions.map(effectOf);
  const seen = tidy(jointEvidence(effects));
  // What is poor everywhere alike has another cause, and what is good everywhere sets no limit.
  const blind = fits.filter((one, i) => effects[i]! < LEAST_EVIDENCE && mean(one.mean) < GOOD);
  // Only what changes along the ladder sets a limit; scores near "good" throughout would set one by chance.
  const changing = fits.filter((_, i) => effects[i]! >= LEAST_EVIDENCE);
  const telling = changing.filter(getsBetter);
  // What gets worse toward the clean side has nothing to gain there: it speaks against going on.
  const worse = changing.filter((one) => !getsBetter(one));
  const still = fits.filter((one) => !blind.includes(one) && !worse.includes(one));
  const deciding = telling.length > 0 ? telling : still;
  const ends = { first: fits[0]!.values[0]!, last: fits[0]!.values.at(-1)! };
  const base = {
    setting: kind.setting,
    unit,
    also: [],
    notes: [
      ...blind.map(({ name }) => `${name} is poor on every rung alike: that has another cause.`),
      ...worse.map(({ name }) => `${name} only gets worse the ${order > 0 ? above : below} it is.`),
    ],
    evidence: seen,
    observations: looks.flatMap((look) =>
      weighed(look, weights).map(({ value, y }) => ({ value, score: y })),
    ),
  };
  const random = seeded(seed);
  const curve = curveOf(fits, seeded(seed + 1));
  const none = { value: null, range: null, done: false, next: null };
  if (deciding.length === 0)
    return ok({
      ...base,
      curve,
      ...none,
      verdict: 'no-effect',
      reason: `Nothing gets clean anywhere on this ladder. ${kind.otherCause}`,
    });
  const places = Array.from({ length: DRAWS }, () => limitOf(deciding, random));
  const before = places.filter((place) => place === -Infinity).length / DRAWS;
  const after = places.filter((place) => place === Infinity).length / DRAWS;
  const step = Math.abs(ends.last - ends.first) / Math.max(1, plan.rungs.length - 1);
  const bounds = kind.bounds(bench);
  const clamped = places.map((place) =>
    place === -Infinity ? ends.first : place === Infinity ? ends.last : place,
  );
  const range = sorted([quantile(clamped, LOW), quantile(clamped, 1 - LOW)]);
  if (after > EDGE_SHARE) {
    const ahead = beyond(ends.last, order, tidy(step), bounds);
    const side = order > 0 ? above : below;
    return ok({
      ...base,
      curve,
      ...none,
      verdict: ahead ? 'edge' : 'no-effect',
      reason: ahead
        ? `No rung is clean yet; the answer lies ${side} than ${short(ends.last)} ${unit}.`
        : `No rung is clean, and this bench allows nothing ${side}. ${kind.otherCause}`,
      next: ahead && nextOf(plan, ahead, 'One rung back over the end, the others beyond it.'),
    });
  }
  if (before > EDGE_SHARE) {
    const ahead = beyond(ends.first, order > 0 ? -1 : 1, tidy(step), bounds);
    const side = order > 0 ? below : above;
    if (ahead)
      return ok({
        ...base,
        curve,
        ...none,
        verdict: 'edge',
        range: tidyRange(range, resolution),
        reason: `Every rung is clean already; the ${end} that is clean lies ${side} than ${short(ends.first)} ${unit}.`,
        next: nextOf(plan, ahead, 'One rung back over the end, the others beyond it.'),
      });
    return ok({
      ...base,
      curve,
      ...none,
      verdict: 'value',
      value: tidy(ends.first),
      range: tidyRange(range, resolution),
      done: true,
      reason: `Every rung is clean, and ${short(ends.first)} ${unit} is the last that this bench allows.`,
    });
  }
  // Clean lies above the limit for a least, below it for a most.
  const sure = quantile(clamped, order > 0 ? SURE : 1 - SURE);
  const value = onSafeSide(sure, resolution, order);
  const done = range[1] - range[0] < 2 * resolution;
  const finer = done ? null : refine(range, resolution, bounds);
  return ok({
    ...base,
    curve,
    verdict: 'value',
    value,
    range: tidyRange(range, resolution),
    done,
    reason: reasonOf(deciding, value, end, unit, order > 0 ? below : above),
    next: finer && nextOf(plan, finer, 'A finer ladder around the limit.'),
  });
}

/** Share of draws left out at each end of the 80 % range. */
const LOW = 0.1;

/** Mean score of each value, in the order in which prints get cleaner. */
function fitOf({ name, weight, values, y, noise }: Opinion, order: 1 | -1): Fit {
  const distinct = [...new Set(values)].sort((a, b) => order * (a - b));
  const groups = distinct.map((value) => y.filter((_, i) => values[i] === value));
  return {
    name,
    weight,
    values: distinct,
    mean: groups.map((group) => mean(group)),
    count: groups.map((group) => group.length),
    noise,
  };
}

/** Whether scores rise toward the clean side, by the sign of their slope over the rungs. */
function getsBetter({ mean: y }: Fit): boolean {
  const middle = (y.length - 1) / 2;
  return y.reduce((sum, one, i) => sum + one * (i - middle), 0) > 0;
}

function effectOf({ values, y, noise }: Opinion): number {
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const data = { x: values.map((value) => (value - low) / (high - low || 1)), y, noise };
  return evidence(data, weighModels(data));
}

/** Scores redrawn within their noise, fitted. */
const redrawn = ({ mean: y, count, noise }: Fit, random: Random): number[] =>
  isotonic(
    y.map((value, i) => value + (noise / Math.sqrt(count[i]!)) * normal(random)),
    count,
  );

/** Where a rung as a whole becomes good; −∞ when the first is, ∞ when none does. */
function limitOf(fits: readonly Fit[], random: Random): number {
  const longest = fits.reduce((a, b) => (b.values.length > a.values.length ? b : a));
  const drawn = fits.map((fit) => {
    const y = redrawn(fit, random);
    return { weight: fit.weight, y: longest.values.map((value) => between(fit.values, y, value)) };
  });
  return crossingOf(longest.values, together(drawn), random());
}

/** Criteria as one, each by its weight. */
export function together(each: readonly { weight: number; y: readonly number[] }[]): number[] {
  const total = each.reduce((sum, { weight }) => sum + weight, 0);
  return each[0]!.y.map(
    (_, i) => each.reduce((sum, { weight, y }) => sum + weight * y[i]!, 0) / total,
  );
}

/** A sequence at a place between its values, in either order, by straight lines; beyond its ends as at them. */
function between(values: readonly number[], y: readonly number[], at: number): number {
  const known = values.indexOf(at);
  if (known !== -1) return y[known]!;
  const after = values.findIndex((value, i) => i > 0 && (value - at) * (values[i - 1]! - at) < 0);
  if (after === -1)
    return Math.abs(at - values[0]!) < Math.abs(at - values.at(-1)!) ? y[0]! : y.at(-1)!;
  const [a, b] = [values[after - 1]!, values[after]!];
  return y[after - 1]! + ((at - a) / (b - a)) * (y[after]! - y[after - 1]!);
}

/** A jump by half of the scale between two rungs may have happened anywhere between them. */
const FULL_JUMP = 0.5;

/**
 * Place at which a rising sequence passes "good", between two values by a straight line.
 *
 * @param chance 0..1: a sequence that jumps says nothing of where between two values it did so; the more it jumps,
 *   the more the place is drawn by chance
 */
export function crossingOf(
  values: readonly number[],
  y: readonly number[],
  chance?: number,
): number {
  const first = y.findIndex((score) => score >= GOOD);
  if (first === 0) return -Infinity;
  if (first === -1) return Infinity;
  const [a, b] = [values[first - 1]!, values[first]!];
  const jump = y[first]! - y[first - 1]!;
  const straight = (GOOD - y[first - 1]!) / jump;
  const blind = chance === undefined ? 0 : Math.min(1, jump / FULL_JUMP);
  return a + ((1 - blind) * straight + blind * (chance ?? 0)) * (b - a);
}

/** Mean of the fitted criteria over the values, with the spread of redrawn scores. */
function curveOf(fits: readonly Fit[], random: Random): Finding['curve'] {
  const longest = fits.reduce((a, b) => (b.values.length > a.values.length ? b : a));
  return longest.values
    .map((value, i) => {
      const sums = Array.from({ length: 60 }, () =>
        mean(
          fits
            .filter(({ values }) => values.includes(value))
            .map((fit) => redrawn(fit, random)[fit.values.indexOf(value)] ?? 0),
        ),
      );
      return {
        value: tidy(longest.values[i]!),
        mean: mean(sums),
        low: quantile(sums, 0.16),
        high: quantile(sums, 0.84),
      };
    })
    .sort((a, b) => a.value - b.value);
}

/** Next value that the machine can take, on the clean side. */
export function onSafeSide(value: number, resolution: number, order: 1 | -1): number {
  const steps = value / resolution;
  return tidy((order > 0 ? Math.ceil(steps - 1e-6) : Math.floor(steps + 1e-6)) * resolution);
}

const sorted = ([a, b]: [number, number]): [number, number] => [Math.min(a, b), Math.max(a, b)];

/** One sentence: what stops being clean on the other side. */
function reasonOf(
  fits: readonly Fit[],
  value: number,
  end: string,
  unit: string,
  side: string,
): string {
  const worst = fits
    .map(({ name, values, mean: y }) => ({
      name,
      crossing: crossingOf(
        values,
        isotonic(
          y,
          y.map(() => 1),
        ),
      ),
    }))
    .filter(({ crossing }) => Number.isFinite(crossing))
    .sort((a, b) => Math.abs(a.crossing - value) - Math.abs(b.crossing - value))[0];
  const why = worst ? `${side}: ${CRITERIA[worst.name].poor} (${worst.name}).` : '';
  const text = `The ${end} that is clean is ${short(value)} ${unit}. ${why}`.trim();
  return text;
}
