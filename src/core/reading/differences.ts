/** Where those who looked at the same print disagree. */

import type { Criterion } from '../criteria';
import type { Score, Scores } from './types';

/** Scores further apart than neighbours: beyond what one person gives on two days. */
export const APART = 2;

export type Said = { reader: string; score: Score };
export type Difference = { rung: number; criterion: Criterion; said: Said[] };

/**
 * Cells of one print that were scored at least `APART` apart, the furthest first, then by rung.
 *
 * @param readings each reader's scores of the same print; two of the same name are two looks
 */
export function differences(readings: readonly { reader: string; scores: Scores }[]): Difference[] {
  const cells = new Map<string, Difference>();
  for (const { reader, scores } of readings)
    for (const [name, column] of Object.entries(scores))
      column.forEach((score, rung) => {
        if (score === null) return;
        const criterion = name as Criterion;
        const key = `${rung} ${criterion}`;
        const cell = cells.get(key) ?? { rung, criterion, said: [] };
        cell.said.push({ reader, score });
        cells.set(key, cell);
      });
  return [...cells.values()]
    .filter(({ said }) => spread(said) >= APART)
    .sort((a, b) => spread(b.said) - spread(a.said) || a.rung - b.rung);
}

const spread = (said: readonly Said[]): number => {
  const scores = said.map(({ score }) => score);
  return Math.max(...scores) - Math.min(...scores);
};
