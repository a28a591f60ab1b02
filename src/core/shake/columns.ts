/** Figures of long columns of samples: they are sorted and summed as they lie, without a copy for each number. */

/** The middle one of a column that is not empty. */
export const middleOf = (column: Float64Array): number => shareOf(column, 0.5);

/** The value under which a share of a column lies. @param share 0..1 */
export function shareOf(column: Float64Array, share: number): number {
  const sorted = Float64Array.from(column).sort();
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]!;
}

/** Enough samples to tell a middle by; more are left out evenly. */
const TELLING = 20_000;

/** About the middle one of a long column. */
export function nearMiddleOf(column: Float64Array): number {
  const every = Math.ceil(column.length / TELLING);
  if (every === 1) return middleOf(column);
  return middleOf(
    Float64Array.from({ length: Math.floor(column.length / every) }, (_, i) => column[i * every]!),
  );
}

/** Means of so many samples each. */
export const blocksOf = (column: Float64Array, size: number): Float64Array =>
  size === 1
    ? column
    : Float64Array.from({ length: Math.floor(column.length / size) }, (_, i) =>
        meanOf(column, i * size, (i + 1) * size),
      );

/** How columns vary with each other, about their means: the spread along a direction `d` is `√(dᵀ·C·d)`. */
export function covariancesOf(columns: readonly Float64Array[]): number[][] {
  const means = columns.map((column) => meanOf(column));
  return columns.map((a, i) =>
    columns.map((b, j) => {
      let sum = 0;
      for (let k = 0; k < a.length; k++) sum += (a[k]! - means[i]!) * (b[k]! - means[j]!);
      return sum / a.length;
    }),
  );
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
