/** Eigenvalues of small symmetric matrices, by Jacobi's rotations (G. Golub, C. Van Loan, Matrix Computations, ch. 8). */

import { matrix, type Matrix } from './cholesky';

export type Eigen = {
  values: number[];
  /** Their vectors, one a column. */
  vectors: Matrix;
};

const MOST_SWEEPS = 60;
/** Off the diagonal nothing is left but rounding. */
const ROUNDING = 1e-24;

/** @param given symmetric; it is left as it is */
export function eigenOf(given: Matrix): Eigen {
  const n = given.length;
  const a = given.map((row) => Float64Array.from(row));
  const vectors = matrix(n, n, (i, j) => (i === j ? 1 : 0));
  const whole = a.reduce((sum, row) => row.reduce((acc, one) => acc + one * one, sum), 0);
  for (let sweep = 0; sweep < MOST_SWEEPS; sweep++) {
    let off = 0;
    for (let p = 0; p < n; p++) for (let q = p + 1; q < n; q++) off += a[p]![q]! ** 2;
    if (off <= ROUNDING * whole) break;
    for (let p = 0; p < n; p++) for (let q = p + 1; q < n; q++) rotate(a, vectors, p, q);
  }
  return { values: a.map((row, i) => row[i]!), vectors };
}

function rotate(a: Matrix, vectors: Matrix, p: number, q: number): void {
  const apq = a[p]![q]!;
  if (apq === 0) return;
  const theta = (a[q]![q]! - a[p]![p]!) / (2 * apq);
  const t = Math.sign(theta || 1) / (Math.abs(theta) + Math.sqrt(theta * theta + 1));
  const c = 1 / Math.sqrt(t * t + 1);
  const s = t * c;
  for (const row of a) turn(row, p, q, c, s);
  const [rowP, rowQ] = [a[p]!, a[q]!];
  for (let k = 0; k < a.length; k++) {
    const [x, y] = [rowP[k]!, rowQ[k]!];
    rowP[k] = c * x - s * y;
    rowQ[k] = s * x + c * y;
  }
  for (const row of vectors) turn(row, p, q, c, s);
}

function turn(row: Float64Array, p: number, q: number, c: number, s: number): void {
  const [x, y] = [row[p]!, row[q]!];
  row[p] = c * x - s * y;
  row[q] = s * x + c * y;
}
