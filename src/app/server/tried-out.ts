/** The bench on which somebody tries the program out: its first print comes scored half, so that a finding is there. */

import 'server-only';
import type { Criterion } from '@/core/criteria';
import type { Score, Scores } from '@/core/reading/types';
import { now, store } from './store';

const KEY = 'bench tried out';
const halfKey = (reading: number): string => `half reading ${reading}`;

export const triedOut = (bench: number): void => store().places.set(KEY, String(bench));

/** Whether the next simulated print of a bench is the first of somebody who tries the program out. */
export const isTriedOut = (bench: number): boolean => store().places.get(KEY) === String(bench);

/** Keeps what the simulated machine's own eye said of the first print, once. Within a transaction of the caller. */
export function keepHalf(ladderId: number, reading: number, seen: Scores): void {
  const { ladders, places, readings } = store();
  const ladder = ladders.get(ladderId);
  if (!ladder || !isTriedOut(ladder.benchId)) return;
  const seenRungs = new Set<number>();
  for (const [criterion, scores] of Object.entries(seen) as [Criterion, (Score | null)[]][])
    scores.forEach((score, rung) => {
      if (score === null) return;
      seenRungs.add(rung);
      readings.score(reading, { rung, criterion, score }, now());
    });
  let rung = 0;
  while (seenRungs.has(rung)) rung++;
  places.set(KEY, '');
  places.set(halfKey(reading), 'yes');
  // Where it goes on: the lowest rung that is not scored.
  places.set(`reading ${reading}`, JSON.stringify({ rung, criterion: 0, mode: 'rung' }));
}

/** Whether half of a reading was scored by the simulated machine's own eye. */
export const isHalf = (reading: number): boolean => store().places.get(halfKey(reading)) !== null;
