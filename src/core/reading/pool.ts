/** Pools readings: for each criterion, every score that was given with the value that it was given to. */

import type { Criterion } from '../criteria';
import { mean } from '../numbers';
import { BEST_SCORE, type Scores, type Weights } from './types';

/** A number for each rung by criterion, as scores are written; decimals too. */
export type ByCriterion = Partial<Record<Criterion, readonly (number | null)[]>>;

/** A reading that no eye gave: scores 0..4 that need not be whole, each with a noise of its own in scores. */
export type Told = { scores: ByCriterion; noise: ByCriterion };

/** One reading of a ladder whose rungs have these values; without a noise of its own it is an eye's. */
export type Look = { values: readonly number[]; scores: ByCriterion; noise?: ByCriterion };

/** All readings of a ladder whose rungs have these values: the eyes' first. */
export const looksOf = (
  values: readonly number[],
  { readings, loupe = [] }: { readings: readonly Scores[]; loupe?: readonly Told[] },
): Look[] => [
  ...readings.map((scores) => ({ values, scores })),
  ...loupe.map((told) => ({ values, ...told })),
];

/** All that was said about one criterion. */
export type Opinion = {
  name: Criterion;
  /** Share of the weight of all criteria that were scored. */
  weight: number;
  /** Values that were judged, and the scores, 0..1; one entry a score. */
  values: number[];
  y: number[];
  /** Standard deviation of each score's noise, 0..1. */
  noise: number[];
};

/**
 * Scatter of one score by one person, in scores: half a score of judgement, and the rounding to whole scores
 * (variance 1/12). Repeats may show more, never less: two people who agree by chance are not exact.
 */
export const SCORE_NOISE = Math.sqrt(0.5 ** 2 + 1 / 12);
const FLOOR = SCORE_NOISE / BEST_SCORE;

/** How many readings' worth of belief the floor carries against the scatter of repeats. */
const FLOOR_WEIGHT = 4;

/** Pools readings, criterion by criterion. What nobody could tell is left out and says nothing either way. */
export function pool(looks: readonly Look[], weights: Weights): Opinion[] {
  const opinions = (Object.keys(weights) as Criterion[]).flatMap((name): Opinion[] => {
    const weight = weights[name] ?? 0;
    if (!(weight > 0)) return [];
    const said = looks.flatMap((look) =>
      look.values.flatMap((value, rung): Said[] => {
        const score = look.scores[name]?.[rung];
        const own = look.noise?.[name]?.[rung];
        if (!isScore(score)) return [];
        return [
          { value, y: score / BEST_SCORE, noise: isScore(own) ? own / BEST_SCORE : undefined },
        ];
      }),
    );
    if (said.length === 0) return [];
    const eye = noiseOf(said.filter((one) => one.noise === undefined));
    return [
      {
        name,
        weight,
        values: said.map(({ value }) => value),
        y: said.map((one) => one.y),
        noise: said.map((one) => one.noise ?? eye),
      },
    ];
  });
  const total = opinions.reduce((sum, { weight }) => sum + weight, 0);
  return opinions.map((one) => ({ ...one, weight: one.weight / total }));
}

type Said = { value: number; y: number; /** Missing for an eye's. */ noise: number | undefined };

/** Several scores of the same as one that is surer than each: the surer count for more. */
export function asOne(all: readonly { y: number; noise: number }[]): { y: number; noise: number } {
  const sure = all.map(({ noise }) => 1 / noise ** 2);
  const total = sure.reduce((sum, one) => sum + one, 0);
  return {
    y: all.reduce((sum, { y }, i) => sum + y * sure[i]!, 0) / total,
    noise: 1 / Math.sqrt(total),
  };
}

const isScore = (value: number | null | undefined): value is number => typeof value === 'number';

/** Scatter of the scores of one value, drawn toward the floor while repeats are few, and never under it. */
function noiseOf(said: readonly Said[]): number {
  const groups = new Map<number, number[]>();
  for (const { value, y } of said) groups.set(value, [...(groups.get(value) ?? []), y]);
  let squares = 0;
  let freedom = 0;
  for (const group of groups.values()) {
    const middle = mean(group);
    for (const one of group) squares += (one - middle) ** 2;
    freedom += group.length - 1;
  }
  const pooled = (squares + FLOOR_WEIGHT * FLOOR ** 2) / (freedom + FLOOR_WEIGHT);
  return Math.sqrt(Math.max(pooled, FLOOR ** 2));
}

/**
 * Weighed score of each reading's rungs, 0..1, for showing. A criterion that a reading leaves out on some rungs
 * counts there with that reading's own mean, so that a "can't tell" neither lifts nor lowers a rung.
 */
export function weighed(
  { values, scores }: Look,
  weights: Weights,
): { value: number; y: number }[] {
  const used = (Object.keys(weights) as Criterion[]).flatMap((name) => {
    const list = scores[name] ?? [];
    const given = list.filter(isScore);
    const weight = weights[name] ?? 0;
    return given.length > 0 && weight > 0 ? [{ weight, list, middle: mean(given) }] : [];
  });
  const total = used.reduce((sum, { weight }) => sum + weight, 0);
  return values.flatMap((value, rung) => {
    if (!used.some(({ list }) => isScore(list[rung]))) return [];
    const sum = used.reduce(
      (acc, { list, weight, middle }) => acc + weight * (list[rung] ?? middle),
      0,
    );
    return [{ value, y: sum / total / BEST_SCORE }];
  });
}

/** Mean score of one criterion on each rung over all readings; null where nobody could tell. */
export function criterionMeans(
  readings: readonly ByCriterion[],
  name: Criterion,
  rungs: number,
): (number | null)[] {
  return Array.from({ length: rungs }, (_, rung) => {
    const given = readings.map((scores) => scores[name]?.[rung]).filter(isScore);
    return given.length > 0 ? mean(given) : null;
  });
}
