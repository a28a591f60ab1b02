/**
 * Of a grid, the best row of each column as somebody tapped it, as numbers. It says how rows of one column compare, and
 * nothing of how columns do: the chosen cell counts as a clean one whose score is not sure, and what stands further from
 * it as worse by as much as a hill falls, less surely.
 */

import { BEST_ROWS } from '../ladders/types';
import type { Axis, Plan } from '../plan/plan';
import { problem, type Problem } from '../result';

/** What a choice says of a cell: its score, 0..1, and how far that may be off. */
export type Guess = { rung: number; y: number; noise: number };

/** Score of the best row of a column, and how sure it is. */
const [BEST, SURE] = [0.85, 0.06];
/** What the furthest rows are worse by, and how sure that is. */
const [FALL, UNSURE] = [0.6, 0.12];
/** Rows from the best to where it is no worse any more, as a share of all. */
const REACH = 0.6;

/** What is wrong with rungs that were chosen; null when each is on the print, and one a column. */
export function wronglyChosen(
  { axes, rungs }: Pick<Plan, 'axes' | 'rungs'>,
  chosen: readonly number[],
): Problem | null {
  const named = axes.some(({ setting }) => setting === null);
  const odd = chosen.find((one) => !rungs[one]);
  if (odd !== undefined && named)
    return problem(
      BEST_ROWS,
      `${odd} was chosen as the best figure of its cell; the map has figures 0 to ${rungs.length - 1}.`,
      'Give numbers of figures: value by value from the lowest, each over all cells.',
    );
  if (odd !== undefined)
    return problem(
      BEST_ROWS,
      `${odd} was chosen as the best of its column; the grid has cells 0 to ${rungs.length - 1}.`,
      'Give numbers of cells, row by row from the lowest, each row from left to right.',
    );
  const across = axes.findIndex(({ along }) => along === 'x');
  const columns = chosen.map((one) => rungs[one]!.at[across]);
  const twice = columns.findIndex((column, i) => columns.indexOf(column) < i);
  return twice === -1
    ? null
    : problem(
        BEST_ROWS,
        named
          ? `Two figures of cell ${(columns[twice] ?? 0) + 1} were chosen as its best.`
          : `Two cells of column ${(columns[twice] ?? 0) + 1} were chosen as its best.`,
        named ? 'Choose one for each cell.' : 'Choose one for each column.',
      );
}

/** @param chosen rungs that are the best of their column, in any order */
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
