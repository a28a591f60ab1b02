/** The bed as a place: where its middle is, and whether a box or a point lies on it. */

import type { Bed } from './machine';

export type Point = { x: number; y: number };
export type Box = { minX: number; minY: number; maxX: number; maxY: number };

/** Printed lines keep this far from the rim, mm: clips and the rounding of the plate. */
export const RIM = 2;

/** Slack for "on the bed", mm: coordinates are written with three decimals. */
export const BED_SLACK = 0.001;

/** The smallest box around the bed, in machine coordinates. */
export function bedBox(bed: Bed): Box {
  const width = bed.shape === 'round' ? bed.diameter : bed.width;
  const depth = bed.shape === 'round' ? bed.diameter : bed.depth;
  const minX = bed.origin === 'centre' ? -width / 2 : 0;
  const minY = bed.origin === 'centre' ? -depth / 2 : 0;
  return { minX, minY, maxX: minX + width, maxY: minY + depth };
}

export function bedCentre(bed: Bed): Point {
  const { minX, minY, maxX, maxY } = bedBox(bed);
  return { x: (minX + maxX) / 2, y: (minY + maxY) / 2 };
}

/** How far a point lies inside the rim, mm; negative outside. */
export function insideBed(bed: Bed, { x, y }: Point): number {
  const box = bedBox(bed);
  if (bed.shape === 'round') {
    const { x: cx, y: cy } = bedCentre(bed);
    return bed.diameter / 2 - Math.hypot(x - cx, y - cy);
  }
  return Math.min(x - box.minX, box.maxX - x, y - box.minY, box.maxY - y);
}

/** Whether a whole box keeps `margin` mm from the rim; beds are convex, so its corners decide. */
export function boxOnBed(bed: Bed, box: Box, margin = RIM): boolean {
  return cornersOf(box).every((corner) => insideBed(bed, corner) >= margin - BED_SLACK);
}

export const cornersOf = ({ minX, minY, maxX, maxY }: Box): Point[] => [
  { x: minX, y: minY },
  { x: maxX, y: minY },
  { x: maxX, y: maxY },
  { x: minX, y: maxY },
];

export const growBox = (box: Box, by: number): Box => ({
  minX: box.minX - by,
  minY: box.minY - by,
  maxX: box.maxX + by,
  maxY: box.maxY + by,
});
