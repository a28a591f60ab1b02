/** How much of a ladder's strokes runs at the speed asked for. */

import { rungFinder } from '../gcode/rungs';
import { MOVE, type Trace } from '../gcode/trace';
import type { Motion } from './plan-motion';

/** A stroke counts as run at a speed when it is within this share of it; feed rates are whole mm/min. */
const SAME_SPEED = 0.01;

/**
 * Strokes that are faster on purpose (fill, strands over air) are none of the walls and do not count.
 *
 * @param asked speed of walls as the user asked for it, mm/s
 * @returns `share` of the length of the strokes in rungs that really runs at `asked`, 0..1, and `speed`, the
 * mean over that length of what they run at, mm/s
 */
export function reachOf(
  { moves }: Trace,
  motion: Motion,
  rungs: readonly { z: { from: number; to: number } }[],
  asked: number,
): { share: number; speed: number } {
  const rungAt = rungFinder(rungs);
  let total = 0;
  let at = 0;
  let time = 0;
  for (let i = 1; i < moves.count; i++) {
    if (moves.kind[i] !== MOVE.extrude || rungAt(moves.z[i]!) === -1) continue;
    if (moves.speed[i]! > asked * (1 + SAME_SPEED)) continue;
    const dx = moves.x[i]! - moves.x[i - 1]!;
    const dy = moves.y[i]! - moves.y[i - 1]!;
    const length = Math.sqrt(dx * dx + dy * dy);
    total += length;
    time += motion.time[i]!;
    if (moves.speed[i]! >= asked * (1 - SAME_SPEED)) at += length * Math.max(0, motion.reach[i]!);
  }
  return { share: total > 0 ? at / total : 0, speed: time > 0 ? total / time : 0 };
}
