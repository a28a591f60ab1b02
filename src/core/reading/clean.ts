/**
 * The least or the most of a setting that is still clean. For each criterion the scores are fitted with a sequence
 * that only gets better toward the clean side (isotonic regression); where these together, by their weights, pass
 * "good" is what is sought, and how sure that is, redrawing the scores within their noise tells (bootstrap; B. Efron, Ann. Statist. 7, 1979).
 */

import { CRITERIA, type Criterion } from '../criteria';
import { mean, quantile, short, STEP_SLACK, tidy } from '../numbers';
import { normal, seeded, type Random } from '../random';
import { ok, type Result } from '../result';
import { capital } from '../text';
import { evidence, jointEvidence, weighModels } from './curve';
import { LEAST_EVIDENCE, tidyRange } from './find';
import type { Finding, Verdict } from './finding';
import { gather, type Case, type Gathered } from './gather';
import { isotonic } from './isotonic';
import { asOne, type Opinion } from './pool';
import { beyond, nextOf, refine } from './refine';
import { BEST_SCORE } from './types';

/** Scores from here on round to "good". */
export const GOOD = 2.5 / BEST_SCORE;
/** Chance of being clean that the proposed value usually must have. */
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
  /** Noise of each mean. */
  noise: number[];
};

/** 1 where prints get cleaner with more of a setting, -1 where with less. */
type Order = 1 | -1;

/** What is looked for, and what every finding of it says whatever its verdict. */
type Search = {
  all: Gathered;
  end: 'least' | 'most';
  order: Order;
  /** Chance of being clean that the value must have. */
  sure: number;
  otherCause: string;
  base: Pick<Finding, 'evidence' | 'curve' | 'observations' | 'notes'>;
  /** The values at which prints are least and most likely clean. */
  first: number;
  last: number;
};

/**
 * Works out the least or the most that is clean.
 *
 * @returns problems when too little was scored
 */
export function findClean(
  given: Case,
  end: 'least' | 'most',
  sure: number = SURE,
): Result<Finding> {
  const gathered = gather(given, 'all', 'limit');
  if (!gathered.ok) return gathered;
  const all = gathered.value;
  const order: Order = end === 'least' ? 1 : -1;
  const fits = all.opinions.map((one) => fitOf(one, order));
  const sides = sidesOf(fits, all.opinions);
  const search: Search = {
    all,
    end,
    order,
    sure,
    otherCause: given.kind.otherCause,
    base: {
      evidence: tidy(jointEvidence(sides.effects)),
      curve: curveOf(fits, seeded(all.seed + 1)),
      observations: all.observations,
      notes: notesOf(sides, order, all),
    },
    first: fits[0]!.values[0]!,
    last: fits[0]!.values.at(-1)!,
  };
  if (sides.deciding.length === 0)
    return ok(unclean(search, `Nothing gets clean anywhere on this ladder. ${search.otherCause}`));
  const random = seeded(all.seed);
  const places = Array.from({ length: DRAWS }, () => limitOf(sides.deciding, random));
  const share = (beyondEnd: number) => places.filter((place) => place === beyondEnd).length / DRAWS;
  if (share(Infinity) > EDGE_SHARE) return ok(noneClean(search));
  const within = places.map((place) =>
    place === -Infinity ? search.first : place === Infinity ? search.last : place,
  );
  const range = sorted([quantile(within, LOW), quantile(within, 1 - LOW)]);
  if (share(-Infinity) > EDGE_SHARE) return ok(allClean(search, range));
  return ok(limitFound(search, sides.deciding, within, range));
}

type Sides = {
  /** Log evidence of each criterion that it changes along the ladder. */
  effects: number[];
  /** Poor everywhere alike: that has another cause. */
  blind: Fit[];
  /** What gets worse toward the clean side has nothing to gain there: it speaks against going on. */
  worse: Fit[];
  /** What the limit is drawn from. */
  deciding: Fit[];
};

/** Only what changes along the ladder sets a limit; scores near "good" throughout would set one by chance. */
function sidesOf(fits: readonly Fit[], opinions: readonly Opinion[]): Sides {
  const effects = opinions.map(effectOf);
  const blind = fits.filter((one, i) => effects[i]! < LEAST_EVIDENCE && mean(one.mean) < GOOD);
  const changing = fits.filter((_, i) => effects[i]! >= LEAST_EVIDENCE);
  const telling = changing.filter(getsBetter);
  const worse = changing.filter((one) => !getsBetter(one));
  const still = fits.filter((one) => !blind.includes(one) && !worse.includes(one));
  return { effects, blind, worse, deciding: telling.length > 0 ? telling : still };
}

const notesOf = ({ blind, worse }: Sides, order: Order, { info }: Gathered): string[] => [
  ...blind.map(({ name }) => `${name} is poor on every rung: that has another cause.`),
  ...worse.map(
    ({ name }) => `${name} only gets worse the ${order > 0 ? info.above : info.below} it is.`,
  ),
];

function told(
  { base, all }: Search,
  verdict: Verdict,
  rest: Partial<Pick<Finding, 'done' | 'next'>> & {
    reason: string;
    value?: number;
    range?: [number, number];
  },
): Finding {
  const { value = null, range, reason, done = false, next = null } = rest;
  const tidied = range ? tidyRange(range, all.info.resolution) : null;
  const values: Finding['values'] = [{ setting: all.setting, value, range: tidied }];
  return { ...base, verdict, values, done, reason, next };
}

const unclean = (search: Search, reason: string): Finding => told(search, 'no-effect', { reason });

/** Words for the side toward which prints get cleaner, and for the other. */
const wordsOf = ({ order, all: { info } }: Search) => {
  const { above, below } = info;
  return order > 0 ? { cleaner: above, other: below } : { cleaner: below, other: above };
};

const BACK_OVER = 'It starts one rung before the end and goes on beyond it.';

/** No rung is clean yet: the next ladder goes on where this one ends. */
function noneClean(search: Search): Finding {
  const { all, order, last, otherCause } = search;
  const ahead = beyond(last, order, tidy(stepOf(search)), all.bounds);
  const { cleaner } = wordsOf(search);
  if (!ahead)
    return unclean(
      search,
      `No rung is clean, and this bench allows nothing ${cleaner}. ${otherCause}`,
    );
  return told(search, 'edge', {
    reason: `No rung is clean yet; the answer lies ${cleaner} than ${short(last)} ${all.info.unit}.`,
    next: nextOf(all, ahead, BACK_OVER),
  });
}

/** Every rung is clean: the next ladder goes the other way, as far as the bench allows. */
function allClean(search: Search, range: [number, number]): Finding {
  const { all, end, order, first } = search;
  const { unit } = all.info;
  const ahead = beyond(first, order > 0 ? -1 : 1, tidy(stepOf(search)), all.bounds);
  if (ahead)
    return told(search, 'edge', {
      range,
      reason: `Every rung is clean already; the ${end} that is clean lies ${wordsOf(search).other} than ${short(first)} ${unit}.`,
      next: nextOf(all, ahead, BACK_OVER),
    });
  return told(search, 'value', {
    value: tidy(first),
    range,
    done: true,
    reason: `Every rung is clean, and ${short(first)} ${unit} is the last that this bench allows.`,
  });
}

/** Clean lies above the limit for a least, below it for a most. */
function limitFound(
  search: Search,
  deciding: readonly Fit[],
  within: readonly number[],
  range: [number, number],
): Finding {
  const { all, end, order, sure } = search;
  const { resolution, unit } = all.info;
  const place = quantile(within, order > 0 ? sure : 1 - sure);
  const value = onSafeSide(place, resolution, order);
  const done = range[1] - range[0] < 2 * resolution;
  const finer = done ? null : refine(range, resolution, all.bounds);
  return told(search, 'value', {
    value,
    range,
    done,
    reason: reasonOf(deciding, value, end, unit, wordsOf(search).other),
    next: finer && nextOf(all, finer, 'A finer ladder around the limit.'),
  });
}

const stepOf = ({ first, last, all: { values } }: Search): number =>
  Math.abs(last - first) / Math.max(1, new Set(values).size - 1);

/** Share of draws left out at each end of the 80 % range. */
const LOW = 0.1;

/** Mean score of each value, in the order in which prints get cleaner. */
function fitOf({ name, weight, values, y, noise }: Opinion, order: Order): Fit {
  const distinct = [...new Set(values)].sort((a, b) => order * (a - b));
  const groups = distinct.map((value) =>
    asOne(y.flatMap((one, i) => (values[i] === value ? [{ y: one, noise: noise[i]! }] : []))),
  );
  return {
    name,
    weight,
    values: distinct,
    mean: groups.map((group) => group.y),
    noise: groups.map((group) => group.noise),
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
const redrawn = ({ mean: y, noise }: Fit, random: Random): number[] =>
  isotonic(
    y.map((value, i) => value + noise[i]! * normal(random)),
    noise.map((one) => 1 / one ** 2),
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
  return tidy(
    (order > 0 ? Math.ceil(steps - STEP_SLACK) : Math.floor(steps + STEP_SLACK)) * resolution,
  );
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
  const why = worst ? `${capital(side)}: ${CRITERIA[worst.name].poor} (${worst.name}).` : '';
  const text = `The ${end} that is clean is ${short(value)} ${unit}. ${why}`.trim();
  return text;
}
