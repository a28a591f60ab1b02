/** Lengths on a picture that stands straight before the camera, once one length on it is known. */

import type { Point } from '../bench/bed';
import type { Corners } from './pixels';
import { EIGHT_OF_TEN } from './sight';
import { AIR, placeAt, poseOf } from './straighten';

/** Pixels for a millimetre, and how far they may be off, as a share (one standard deviation). */
export type Scale = { pxPerMm: number; off: number };

/** How far a mark lies off the place that was meant, pixels of the screen (one standard deviation). */
export const HAND_PX = 0.7;

const apart = (a: Point, b: Point): number => Math.hypot(b.x - a.x, b.y - a.y);

/**
 * @param mm  known length between two marks, more than 0
 * @param per pixels of the picture for a pixel of the screen, where the marks were put
 * @returns null where the marks lie on each other
 */
export function scaleFrom(a: Point, b: Point, mm: number, per: number): Scale | null {
  const px = apart(a, b);
  if (!(px > 2 * HAND_PX * per) || !(mm > 0)) return null;
  return { pxPerMm: px / mm, off: (Math.SQRT2 * HAND_PX * per) / px };
}

/** Length between two marks, mm, and half the range that holds the truth in 8 of 10. */
export function lengthBetween(
  a: Point,
  b: Point,
  { pxPerMm, off }: Scale,
  per: number,
): { mm: number; spread: number } {
  const mm = apart(a, b) / pxPerMm;
  const marks = (Math.SQRT2 * HAND_PX * per) / pxPerMm;
  return { mm, spread: EIGHT_OF_TEN * Math.hypot(marks, off * mm) };
}

/** Steps of a grid that stay apart on the screen: whole and round, mm. */
export function gridStep(pxPerMm: number, per: number): number {
  const least = 12 * per;
  return [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50].find((mm) => mm * pxPerMm >= least) ?? 100;
}

/** A straightened picture, as far as lengths on it are told by its corners. */
type Straightened = {
  corners: Corners;
  bulge: number | null;
  /** The straightened picture, with the air around the print's box; mm. */
  flat: { left: number; bottom: number; width: number; height: number };
};

/** Length between two places of a photo as its corners and the plan tell it, mm; null where they make no picture. */
export function lengthByCorners(
  { corners, bulge, flat }: Straightened,
  photo: { width: number; height: number },
  a: Point,
  b: Point,
): number | null {
  const box = {
    minX: flat.left + AIR,
    maxX: flat.left + flat.width - AIR,
    minY: flat.bottom + AIR,
    maxY: flat.bottom + flat.height - AIR,
  };
  const pose = poseOf(photo, corners, box, bulge ?? 0);
  return pose && apart(placeAt(pose, a), placeAt(pose, b));
}
