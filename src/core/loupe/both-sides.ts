/** What a measure says of the two sides of a print, one against the other. */

import { mean } from '../numbers';
import type { MeasureKept } from './kept';
import type { MeasureName } from './measures';

export type Against = {
  /** This side less the other, the mean of all rungs that both tell. */
  value: number;
  /** Half the range that holds the truth in 8 of 10. */
  spread: number;
  /** The same rung by rung. */
  rungs: { rung: number; here: number; there: number; value: number; spread: number }[];
};

/**
 * @param here  measures of one side's picture
 * @param there of the other side's
 * @returns null where no rung is told on both
 */
export function againstOther(
  name: MeasureName,
  here: readonly MeasureKept[],
  there: readonly MeasureKept[],
): Against | null {
  const rungs = here.flatMap((one) => {
    const other = there.find((each) => each.name === name && each.rung === one.rung);
    if (one.name !== name || one.value === null || !other || other.value === null) return [];
    return [
      {
        rung: one.rung,
        here: one.value,
        there: other.value,
        value: one.value - other.value,
        spread: Math.hypot(one.spread!, other.spread!),
      },
    ];
  });
  if (rungs.length === 0) return null;
  const value = mean(rungs.map((one) => one.value));
  // Rungs differ for reasons of their own; light from one side, which all of them share, is not told by their scatter.
  const own = Math.hypot(...rungs.map((one) => one.spread)) / rungs.length;
  const scatter = Math.hypot(...rungs.map((one) => one.value - value)) / rungs.length;
  return { value, spread: Math.max(own, scatter), rungs };
}
