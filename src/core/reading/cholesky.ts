/** Small dense symmetric systems. Matrices are rows of Float64Array. */

export type Matrix = Float64Array[];

export const matrix = (
  rows: number,
  columns: number,
  at: (i: number, j: number) => number,
): Matrix =>
  Array.from({ length: rows }, (_, i) =>
    Float64Array.from({ length: columns }, (__, j) => at(i, j)),
  );

/** Pivots under this share of the largest diagonal entry are rounding, not spread. */
const RANK_SLACK = 1e-9;

/**
 * Lower triangle L with L·Lᵀ = A, for a symmetric positive semi-definite A.
 *
 * Near-equal points make a kernel singular to rounding: such a pivot and its column become 0, that is, the
 * point follows from those before it. (Lifting the pivot instead would divide rounding errors by a tiny number.)
 */
export function cholesky(a: Matrix): Matrix {
  const n = a.length;
  const floor = RANK_SLACK * Math.max(...a.map((row, i) => row[i]!), Number.MIN_VALUE);
  const l = matrix(n, n, () => 0);
  for (let i = 0; i < n; i++) {
    for (let j = 0; j <= i; j++) {
      let sum = a[i]![j]!;
      for (let k = 0; k < j; k++) sum -= l[i]![k]! * l[j]![k]!;
      if (i === j) l[i]![i] = sum > floor ? Math.sqrt(sum) : 0;
      else l[i]![j] = l[j]![j] === 0 ? 0 : sum / l[j]![j]!;
    }
  }
  return l;
}

/** Solves L·x = b, for an L without zero pivots. */
export function solveLower(l: Matrix, b: ArrayLike<number>): Float64Array {
  const x = Float64Array.from(b);
  for (let i = 0; i < x.length; i++) {
    for (let k = 0; k < i; k++) x[i]! -= l[i]![k]! * x[k]!;
    x[i]! /= l[i]![i]!;
  }
  return x;
}

export const dot = (a: Float64Array, b: Float64Array): number => {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
};
