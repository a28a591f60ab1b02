/** Straight lines stay straight: how a flat rectangle lies in a picture (closed form for four corners). */

import type { Point } from '../bench/bed';
import type { Corners } from './pixels';

/** Rows of the matrix that takes (u, v, 1) to a picture; its last entry is 1. */
export type Homography = readonly [number, number, number, number, number, number, number, number];

/**
 * The map from the unit square to four corners: (0, 0) is the lower left, u runs to the right, v up.
 *
 * @returns null where three of them lie on a line
 */
export function homographyTo([p0, p1, p2, p3]: Corners): Homography | null {
  const sx = p0.x - p1.x + p2.x - p3.x;
  const sy = p0.y - p1.y + p2.y - p3.y;
  const [ax, ay] = [p1.x - p2.x, p1.y - p2.y];
  const [bx, by] = [p3.x - p2.x, p3.y - p2.y];
  const det = ax * by - ay * bx;
  if (Math.abs(det) < 1e-9) return null;
  const g = (sx * by - sy * bx) / det;
  const h = (ax * sy - ay * sx) / det;
  return [
    p1.x - p0.x + g * p1.x,
    p3.x - p0.x + h * p3.x,
    p0.x,
    p1.y - p0.y + g * p1.y,
    p3.y - p0.y + h * p3.y,
    p0.y,
    g,
    h,
  ];
}

/** Where a place of the unit square lies in the picture. */
export function project([a, b, c, d, e, f, g, h]: Homography, u: number, v: number): Point {
  const w = g * u + h * v + 1;
  return { x: (a * u + b * v + c) / w, y: (d * u + e * v + f) / w };
}

/** Where a place of the picture lies on the unit square: the inverse of {@link project}. */
export function unproject([a, b, c, d, e, f, g, h]: Homography, { x, y }: Point): Point {
  // Two linear equations in u and v.
  const [p, q, r] = [a - g * x, b - h * x, x - c];
  const [s, t, w] = [d - g * y, e - h * y, y - f];
  const det = p * t - q * s;
  return { x: (r * t - q * w) / det, y: (p * w - r * s) / det };
}

/** Whether four corners make a convex form that runs round against the clock as it is seen (y falls upward). */
export function turnsRound(corners: Corners): 'convex' | 'mirrored' | 'crossed' {
  const turns = corners.map((a, i) => {
    const [b, c] = [corners[(i + 1) % 4]!, corners[(i + 2) % 4]!];
    return (b.x - a.x) * (c.y - b.y) - (b.y - a.y) * (c.x - b.x);
  });
  if (turns.every((turn) => turn < 0)) return 'convex';
  return turns.every((turn) => turn > 0) ? 'mirrored' : 'crossed';
}
