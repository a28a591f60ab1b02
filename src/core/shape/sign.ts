/** Numbers as flat regions: laid on a sole, or left out of one. */

import { strokesOf } from './digits';
import { rect, union, type Region } from './region';

/** Grid unit and width of a stroke, mm. */
export type SignSize = { unit: number; stroke: number };

/** How tall a sign is, mm. */
export const signTall = ({ unit, stroke }: SignSize): number => 4 * unit + stroke;

/** A text as a region; its lower left corner at (x, y). */
export const signAt = (text: string, x: number, y: number, { unit, stroke }: SignSize): Region =>
  union(
    ...strokesOf(text).map(([x0, y0, x1, y1]) =>
      rect(
        x + Math.min(x0, x1) * unit,
        y + Math.min(y0, y1) * unit,
        x + Math.max(x0, x1) * unit + stroke,
        y + Math.max(y0, y1) * unit + stroke,
      ),
    ),
  );

/** A region as it is seen from below: left and right changed about a line along y. */
export const mirrored = (region: Region, middle: number): Region =>
  // Turned back to run the same way round, or a rim would count as a hole.
  region.map((ring) => ring.map(({ x, y }) => ({ x: 2 * middle - x, y })).reverse());
