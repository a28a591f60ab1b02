/**
 * The bulge of a lens: a place at r from the middle is seen at r (1 + k r²), with r in half diagonals of the picture.
 * k is negative for a barrel, as wide lenses of phones make it.
 */

import type { Point } from '../bench/bed';

export type Lens = { k: number; middle: Point; /** Half the diagonal, pixels. */ reach: number };

/** Strongest bulge that is believed: more is no lens of a camera but a wrong outline. */
export const MOST_BULGE = 0.15;

export const lensOf = ({ width, height }: { width: number; height: number }, k: number): Lens => ({
  k,
  middle: { x: width / 2, y: height / 2 },
  reach: Math.hypot(width, height) / 2,
});

/** Where a straight place is seen. */
export function bulged({ k, middle, reach }: Lens, { x, y }: Point): Point {
  const [dx, dy] = [x - middle.x, y - middle.y];
  const grow = 1 + (k * (dx * dx + dy * dy)) / (reach * reach);
  return { x: middle.x + dx * grow, y: middle.y + dy * grow };
}

/** The straight place of what is seen: the inverse of {@link bulged}, by steps that converge fast for small k. */
export function flattened({ k, middle, reach }: Lens, { x, y }: Point): Point {
  const [dx, dy] = [x - middle.x, y - middle.y];
  if (k === 0) return { x, y };
  let [ux, uy] = [dx, dy];
  for (let i = 0; i < 12; i++) {
    const grow = 1 + (k * (ux * ux + uy * uy)) / (reach * reach);
    [ux, uy] = [dx / grow, dy / grow];
  }
  return { x: middle.x + ux, y: middle.y + uy };
}
