/** Small dense symmetric systems. Matrices are rows of Float64Array. */

export type Matrix = Float64Array[];

export function matrix(
  rows: number,
  columns: number,
  at: (i: number, j: number) => number,
): Matrix {
  const made: Matrix = [];
  for (let i = 0; i < rows; i++) {
    const row = new Float64Array(columns);
    for (let j = 0; j < columns; j++) row[j] = at(i, j);
    made.push(row);
  }
  return made;
}

/** A symmetric matrix by its lower triangle, the diagonal with it: all that `cholesky` looks at. */
export function lowerTriangle(rows: number, at: (i: number, j: number) => number): Matrix {
  const made: Matrix = [];
  for (let i = 0; i < rows; i++) {
    const row = new Float64Array(rows);
    for (let j = 0; j <= i; j++) row[j] = at(i, j);
    made.push(row);
  }
  return made;
}

/** Pivots under this share of the largest diagonal entry are rounding, not spread. */
const RANK_SLACK = 1e-9;

/**
 * Lower triangle L with L·Lᵀ = A, for a symmetric positive semi-definite A of which the lower triangle is given.
 *
 * Near-equal points make a kernel singular to rounding: such a pivot and its column become 0, that is, the
 * point follows from those before it. (Lifting the pivot instead would divide rounding errors by a tiny number.)
 */
export function cholesky(a: Matrix): Matrix {
  const n = a.length;
  const floor = RANK_SLACK * Math.max(...a.map((row, i) => row[i]!), Number.MIN_VALUE);
  const l = a.map(() => new Float64Array(n));
  for (let i = 0; i < n; i++) {
    const [from, to] = [a[i]!, l[i]!];
    for (let j = 0; j <= i; j++) {
      const other = l[j]!;
      let sum = from[j]!;
      for (let k = 0; k < j; k++) sum -= to[k]! * other[k]!;
      if (i === j) to[i] = sum > floor ? Math.sqrt(sum) : 0;
      else to[j] = other[j] === 0 ? 0 : sum / other[j]!;
    }
  }
  return l;
}

/** Solves L·x = b, for an L without zero pivots. */
export function solveLower(l: Matrix, b: ArrayLike<number>): Float64Array {
  const x = Float64Array.from(b);
  for (let i = 0; i < x.length; i++) {
    const row = l[i]!;
    let sum = x[i]!;
    for (let k = 0; k < i; k++) sum -= row[k]! * x[k]!;
    x[i] = sum / row[i]!;
  }
  return x;
}

/** Solves Lᵀ·x = b, for an L without zero pivots. */
export function solveUpper(l: Matrix, b: ArrayLike<number>): Float64Array {
  const x = Float64Array.from(b);
  for (let i = x.length - 1; i >= 0; i--) {
    x[i]! /= l[i]![i]!;
    const row = l[i]!;
    for (let k = 0; k < i; k++) x[k]! -= row[k]! * x[i]!;
  }
  return x;
}

export const dot = (a: Float64Array, b: Float64Array): number => {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
};
