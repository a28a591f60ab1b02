/** Pools readings of the same ladder into one number a rung and reading, with its noise. */

import type { Criterion } from '../ladders/criteria';
import { mean } from '../numbers';
import { BEST_SCORE, type Score, type Scores, type Weights } from './types';

/** One reading's view of one rung. */
export type Observation = {
  rung: number;
  /** Weighed score, 0..1. */
  y: number;
};

export type Pooled = {
  observations: Observation[];
  /** Standard deviation of one observation's noise, 0..1. */
  noise: number;
};

/**
 * Scatter of one score by one person, in scores: half a score of judgement, and the rounding to whole scores
 * (variance 1/12). Repeats may show more, never less: two people who agree by chance are not exact.
 */
const SCORE_NOISE = Math.sqrt(0.5 ** 2 + 1 / 12);

/** How many readings' worth of belief the floor carries against the scatter of repeats. */
const FLOOR_WEIGHT = 4;

/**
 * Pools readings. A criterion that a reading leaves out on some rungs counts there with that reading's own mean,
 * so that a "can't tell" neither lifts nor lowers a rung. Rungs without any score give no observation.
 *
 * @param rungs number of rungs of the ladder
 */
export function pool(readings: readonly Scores[], weights: Weights, rungs: number): Pooled {
  const observations: Observation[] = [];
  let floor = 0;
  for (const scores of readings) {
    const used = usedCriteria(scores, weights);
    const total = used.reduce((sum, { weight }) => sum + weight, 0);
    if (total === 0) continue;
    const squares = used.reduce((sum, { weight }) => sum + weight ** 2, 0);
    floor = Math.max(floor, (SCORE_NOISE / BEST_SCORE) * (Math.sqrt(squares) / total));
    for (let rung = 0; rung < rungs; rung++) {
      if (!used.some(({ list }) => isScore(list[rung]))) continue;
      const sum = used.reduce(
        (acc, { list, weight, middle }) => acc + weight * (list[rung] ?? middle),
        0,
      );
      observations.push({ rung, y: sum / total / BEST_SCORE });
    }
  }
  return { observations, noise: noiseOf(observations, floor) };
}

type Used = { name: Criterion; weight: number; list: readonly (Score | null)[]; middle: number };

function usedCriteria(scores: Scores, weights: Weights): Used[] {
  return (Object.keys(weights) as Criterion[]).flatMap((name) => {
    const list = scores[name] ?? [];
    const given = list.filter(isScore);
    const weight = weights[name] ?? 0;
    return given.length > 0 && weight > 0 ? [{ name, weight, list, middle: mean(given) }] : [];
  });
}

const isScore = (value: Score | null | undefined): value is Score => typeof value === 'number';

/** Scatter within rungs, drawn toward the floor while repeats are few, and never under it. */
function noiseOf(observations: readonly Observation[], floor: number): number {
  const byRung = grouped(observations);
  let squares = 0;
  let freedom = 0;
  for (const group of byRung.values()) {
    const middle = mean(group.map(({ y }) => y));
    for (const { y } of group) squares += (y - middle) ** 2;
    freedom += group.length - 1;
  }
  const pooled = (squares + FLOOR_WEIGHT * floor ** 2) / (freedom + FLOOR_WEIGHT);
  return Math.sqrt(Math.max(pooled, floor ** 2));
}

function grouped(observations: readonly Observation[]): Map<number, Observation[]> {
  const groups = new Map<number, Observation[]>();
  for (const one of observations) groups.set(one.rung, [...(groups.get(one.rung) ?? []), one]);
  return groups;
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
