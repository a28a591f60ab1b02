/** What repeated measuring is worth. */

import { mean, short } from '../numbers';
import { problem, type Problem } from '../result';

/** Student's t with 80 % of its mass between ±t, by degrees of freedom from 1 (any table of Student's t). */
const T80 = [3.078, 1.886, 1.638, 1.533, 1.476, 1.44, 1.415, 1.397, 1.383];
const T80_MANY = 1.282;

/** Readings of the same thing that differ by more than this share of their mean contradict each other. */
const MOST_APART = 0.05;

/** Why readings cannot be averaged; null when they agree. `slack` is what the instrument itself errs, mm. */
export function contradiction(
  where: string,
  what: string,
  values: readonly number[],
  of: number,
  slack: number,
): Problem | null {
  const [low, high] = [Math.min(...values), Math.max(...values)];
  if (high - low - slack <= MOST_APART * Math.abs(of)) return null;
  return problem(
    where,
    `${what} ${short(low, 2)} and ${short(high, 2)} contradict each other: their mean would say nothing.`,
    'Measure again, and remove the wrong number.',
  );
}

/** Standard deviation of readings; never under that of the instrument. */
export function spreadOf(values: readonly number[], instrument: number): number {
  if (values.length < 2) return instrument;
  const middle = mean(values);
  const squares = values.reduce((sum, value) => sum + (value - middle) ** 2, 0);
  return Math.max(instrument, Math.sqrt(squares / (values.length - 1)));
}

/** Half the width of the 80 % range of a mean of `count` readings; one alone is taken at the instrument's word. */
export function within80(spread: number, count: number): number {
  const t = count < 2 ? T80_MANY : (T80[count - 2] ?? T80_MANY);
  return (t * spread) / Math.sqrt(Math.max(1, count));
}
