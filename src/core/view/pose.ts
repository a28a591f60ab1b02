/** A layer as a sheet seen from above: how it fits a window, and which stroke lies under a point. */

import type { Box } from '../bench/bed';
import { STROKE_NUMBERS, type Beads } from './beads';

/** Where a sheet lies in a window: pixels a millimetre, and the place in the middle, mm. */
export type Pose = { scale: number; x: number; y: number };

/** Free rim around a sheet that fits its window, px. */
const MARGIN_PX = 24;

/** Box around the middle lines of strokes, mm; one square millimetre when there are none. */
export function strokeBox({ strokes }: Pick<Beads, 'strokes'>): Box {
  const box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  for (let i = 0; i < strokes.length; i += STROKE_NUMBERS)
    for (const k of [0, 3]) {
      box.minX = Math.min(box.minX, strokes[i + k]!);
      box.maxX = Math.max(box.maxX, strokes[i + k]!);
      box.minY = Math.min(box.minY, strokes[i + k + 1]!);
      box.maxY = Math.max(box.maxY, strokes[i + k + 1]!);
    }
  return box.maxX >= box.minX ? box : { minX: 0, minY: 0, maxX: 1, maxY: 1 };
}

/** Pose in which a box fills a window of some size, px. */
export function fitted(box: Box, { width, height }: { width: number; height: number }): Pose {
  const scale = Math.min(
    (width - 2 * MARGIN_PX) / Math.max(1, box.maxX - box.minX),
    (height - 2 * MARGIN_PX) / Math.max(1, box.maxY - box.minY),
  );
  return {
    scale: Math.max(0.01, scale),
    x: (box.minX + box.maxX) / 2,
    y: (box.minY + box.maxY) / 2,
  };
}

/** Move of the stroke nearest to a point, mm, or null when none is near. Strokes after `upTo` do not count. */
export function nearestStroke(
  { strokes, count, move }: Pick<Beads, 'strokes' | 'count' | 'move'>,
  { x, y, within, upTo }: { x: number; y: number; within: number; upTo: number | null },
): number | null {
  let best = Infinity;
  let found: number | null = null;
  for (let k = 0; k < count; k++) {
    if (upTo !== null && move[k]! > upTo) break;
    const at = k * STROKE_NUMBERS;
    const [ax, ay] = [strokes[at]!, strokes[at + 1]!];
    const [dx, dy] = [strokes[at + 3]! - ax, strokes[at + 4]! - ay];
    const span = dx * dx + dy * dy;
    const t = span > 0 ? Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / span)) : 0;
    const far = Math.hypot(x - ax - t * dx, y - ay - t * dy);
    if (far < best && far < Math.max(within, strokes[at + 6]! / 2)) {
      best = far;
      found = move[k]!;
    }
  }
  return found;
}
