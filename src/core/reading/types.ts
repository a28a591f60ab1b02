/** Scores of a print, as people give them. */

import { z } from 'zod';
import { CRITERION_NAMES, withTodaysNames } from '../criteria';
import { MOST_RUNGS } from '../plan/limits';

/** 0 fails, 1 poor, 2 fair, 3 good, 4 clean. */
export const Score = z.union([
  z.literal(0),
  z.literal(1),
  z.literal(2),
  z.literal(3),
  z.literal(4),
]);
export type Score = z.infer<typeof Score>;

export const SCORE_WORDS = ['fails', 'poor', 'fair', 'good', 'clean'] as const;
export const BEST_SCORE = 4;

/** For each criterion one entry a rung, bottom first; null is "can't tell" or not looked at. */
export const Scores = z.partialRecord(
  z.enum(CRITERION_NAMES),
  z.array(Score.nullable()).max(MOST_RUNGS),
);
export type Scores = z.infer<typeof Scores>;

/** `reading.json`: one person's scores of one print. */
export const Reading = z.object({
  format: z.literal('ash-ladder/reading'),
  version: z.literal(1),
  /** Who looked; free text. */
  reader: z.string().max(80).default(''),
  scores: Scores,
  /** Numbers that were measured instead or besides, by the key of the measure. */
  measured: z.record(z.string().max(40), z.array(z.number()).max(50)).default({}),
});
export type Reading = z.infer<typeof Reading>;

/** A reading as a file of any time holds it. */
export const StoredReading = z.preprocess(
  (data) =>
    typeof data === 'object' && data !== null && 'scores' in data
      ? { ...data, scores: withTodaysNames(data.scores) }
      : data,
  Reading,
);

/** Weight of each criterion, 0..1; a criterion that is missing does not count. */
export const Weights = z.partialRecord(z.enum(CRITERION_NAMES), z.number().min(0).max(1));
export type Weights = z.infer<typeof Weights>;
export const StoredWeights = z.preprocess(withTodaysNames, Weights);
