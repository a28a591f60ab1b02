/**
 * Of a grid, the best row of each column as somebody tapped it, as numbers. It says how rows of one column compare, and
 * nothing of how columns do: the chosen cell counts as a clean one whose score is not sure, and what stands further from
 * it as worse by as much as a hill falls, less surely.
 */

import type { Axis, Plan } from '../plan/plan';

/** What a choice says of a cell: its score, 0..1, and how far that may be off. */
export type Guess = { rung: number; y: number; noise: number };

/** Score of the best row of a column, and how sure it is. */
const [BEST, SURE] = [0.85, 0.06];
/** What the furthest rows are worse by, and how sure that is. */
const [FALL, UNSURE] = [0.6, 0.12];
/** Rows from the best to where it is no worse any more, as a share of all. */
const REACH = 0.6;

/** @param chosen rungs that are the best of their column, in any order; others are left out */
export function guessesOf(
  { axes, rungs }: Pick<Plan, 'axes' | 'rungs'>,
  chosen: readonly number[],
): Guess[] {
  const across = axes.findIndex(({ along }) => along === 'x');
  const up = axes.findIndex((_, i) => i !== across);
  if (across === -1 || up === -1) return [];
  const reach = Math.max(2, REACH * (axes[up] as Axis).steps.length);
  return chosen.flatMap((index) => {
    const best = rungs[index];
    if (!best) return [];
    return rungs
      .filter(({ at }) => at[across] === best.at[across])
      .map(({ index: rung, at }): Guess => {
        const far = Math.min(1, Math.abs(at[up]! - best.at[up]!) / reach);
        return { rung, y: BEST - FALL * far ** 2, noise: SURE + (UNSURE - SURE) * far };
      });
  });
}
