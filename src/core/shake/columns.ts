/** Figures of long columns of samples: they are sorted and summed as they lie, without a copy for each number. */

/** The middle one of a column that is not empty. */
export const middleOf = (column: Float64Array): number => shareOf(column, 0.5);

/** The value under which a share of a column lies. @param share 0..1 */
export function shareOf(column: Float64Array, share: number): number {
  const sorted = Float64Array.from(column).sort();
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]!;
}

export function meanOf(column: Float64Array, from = 0, to = column.length): number {
  let sum = 0;
  for (let i = from; i < to; i++) sum += column[i]!;
  return sum / (to - from);
}

/** Standard deviation about the mean. */
export function spreadOf(column: Float64Array, from = 0, to = column.length): number {
  const middle = meanOf(column, from, to);
  let squares = 0;
  for (let i = from; i < to; i++) squares += (column[i]! - middle) ** 2;
  return Math.sqrt(squares / (to - from));
}

/** Highest and lowest. */
export function endsOf(column: Float64Array): { low: number; high: number } {
  let [low, high] = [Infinity, -Infinity];
  for (const one of column) {
    if (one < low) low = one;
    if (one > high) high = one;
  }
  return { low, high };
}
