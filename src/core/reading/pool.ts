/** Pools readings: for each criterion, every score that was given with the value that it was given to. */

import type { Criterion } from '../criteria';
import { mean } from '../numbers';
import { BEST_SCORE, type Score, type Scores, type Weights } from './types';

/** One reading of a ladder whose rungs have these values. */
export type Look = { values: readonly number[]; scores: Scores };

/** All that was said about one criterion. */
export type Opinion = {
  name: Criterion;
  /** Share of the weight of all criteria that were scored. */
  weight: number;
  /** Values that were judged, and the scores, 0..1; one entry a score. */
  values: number[];
  y: number[];
  /** Standard deviation of one score's noise, 0..1. */
  noise: number;
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
    const [values, y]: [number[], number[]] = [[], []];
    for (const look of looks) {
      const list = look.scores[name] ?? [];
      look.values.forEach((value, rung) => {
        const score = list[rung];
        if (!isScore(score)) return;
        values.push(value);
        y.push(score / BEST_SCORE);
      });
    }
    return y.length > 0 ? [{ name, weight, values, y, noise: noiseOf(values, y) }] : [];
  });
  const total = opinions.reduce((sum, { weight }) => sum + weight, 0);
  return opinions.map((one) => ({ ...one, weight: one.weight / total }));
}

const isScore = (value: Score | null | undefined): value is Score => typeof value === 'number';

/** Scatter of the scores of one value, drawn toward the floor while repeats are few, and never under it. */
function noiseOf(values: readonly number[], y: readonly number[]): number {
  const groups = new Map<number, number[]>();
  values.forEach((value, i) => groups.set(value, [...(groups.get(value) ?? []), y[i]!]));
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
  readings: readonly Scores[],
  name: Criterion,
  rungs: number,
): (number | null)[] {
  return Array.from({ length: rungs }, (_, rung) => {
    const given = readings.map((scores) => scores[name]?.[rung]).filter(isScore);
    return given.length > 0 ? mean(given) : null;
  });
}
