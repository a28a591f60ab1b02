/** Small linear least squares, and scatter that a few wild points do not spoil. */

import { mean, quantile } from '../numbers';

/**
 * Solves the normal equations of `rows · p ≈ right` (Gauss, with pivots).
 *
 * @returns null where the columns do not stand apart
 */
export function leastSquares(
  columns: readonly ArrayLike<number>[],
  right: ArrayLike<number>,
): { p: number[]; left: number } | null {
  const n = columns.length;
  const m = columns.map((a, i) => {
    const row = columns.map((b, j) => (j < i ? 0 : dot(a, b)));
    return [...row, dot(a, right)];
  });
  for (let i = 0; i < n; i++) for (let j = 0; j < i; j++) m[i]![j] = m[j]![i]!;
  const before = m.map((row) => row[n]!);
  for (let i = 0; i < n; i++) {
    let top = i;
    for (let j = i + 1; j < n; j++) if (Math.abs(m[j]![i]!) > Math.abs(m[top]![i]!)) top = j;
    [m[i], m[top]] = [m[top]!, m[i]!];
    if (Math.abs(m[i]![i]!) < 1e-12) return null;
    for (let j = 0; j < n; j++) {
      if (j === i) continue;
      const times = m[j]![i]! / m[i]![i]!;
      for (let k = i; k <= n; k++) m[j]![k]! -= times * m[i]![k]!;
    }
  }
  const p = m.map((row, i) => row[n]! / row[i]!);
  // Square of what is left: |y|² − p · Aᵀy.
  const left = dot(right, right) - p.reduce((sum, value, i) => sum + value * before[i]!, 0);
  return { p, left: Math.max(0, left) };
}

function dot(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}

/** Standard deviation of normal values, by the middle of how far they are off their middle. */
export function robustDeviation(values: readonly number[]): number {
  const middle = quantile(values, 0.5);
  return (
    1.4826 *
    quantile(
      values.map((value) => Math.abs(value - middle)),
      0.5,
    )
  );
}

/** How far the mean of parts may be off, by how the parts scatter; null where there is only one. */
export function deviationOfMean(parts: readonly number[]): number | null {
  if (parts.length < 2) return null;
  const middle = mean(parts);
  const square = parts.reduce((sum, one) => sum + (one - middle) ** 2, 0);
  return Math.sqrt(square / (parts.length - 1) / parts.length);
}

/** Sums of pairs, of which their correlation comes. */
export class Pairs {
  private n = 0;
  private a = 0;
  private b = 0;
  private aa = 0;
  private bb = 0;
  private ab = 0;

  add(a: number, b: number): void {
    this.n++;
    this.a += a;
    this.b += b;
    this.aa += a * a;
    this.bb += b * b;
    this.ab += a * b;
  }
  /** −1..1; −1 where one of the two never changes. */
  correlation(): number {
    const { n, a, b, aa, bb, ab } = this;
    const [va, vb] = [aa - (a * a) / n, bb - (b * b) / n];
    return va > 0 && vb > 0 ? (ab - (a * b) / n) / Math.sqrt(va * vb) : -1;
  }
}

export type Line = { at: number; slope: number; off: number };

/** A straight line through points; `at` is its height at x = 0, `off` the scatter about it. */
export function lineThrough(x: readonly number[], y: readonly number[]): Line | null {
  const fit = leastSquares([x.map(() => 1), x], y);
  if (!fit || x.length < 3) return null;
  return { at: fit.p[0]!, slope: fit.p[1]!, off: Math.sqrt(fit.left / (x.length - 2)) };
}
