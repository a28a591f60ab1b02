/** How much of a ladder's strokes runs at the speed and the acceleration under test. */

import { rungFinder, type RungPlace } from '../gcode/rungs';
import { MOVE, type Trace } from '../gcode/trace';
import type { Motion } from './plan-motion';

/** A stroke counts as run at a speed when it is within this share of it; feed rates are whole mm/min. */
const SAME_SPEED = 0.01;

export type Reach = {
  /** Share of the strokes' length that really runs at the speed asked for, 0..1. */
  share: number;
  /** Mean over that length of what they run at, mm/s. */
  speed: number;
  /** Share of the length in moves that get the acceleration asked for, uncut by the limit of an axis, 0..1. */
  accelerated: number;
  /** Share of the length that the file itself asks to run slower, to cool for one, 0..1. */
  slowed: number;
  /** Mean length of a stroke, mm. */
  stroke: number;
};

type Asked = {
  speed: number;
  acceleration: number;
  /** Strokes up to this speed are slow on purpose and do not count, mm/s. */
  slow?: number;
};

class Sum {
  length = 0;
  time = 0;
  at = 0;
  accelerated = 0;
  slowed = 0;
  count = 0;

  done(): Reach {
    const { length, time, at, accelerated, slowed, count } = this;
    if (length === 0) return { share: 0, speed: 0, accelerated: 0, slowed: 0, stroke: 0 };
    return {
      share: at / length,
      speed: time > 0 ? length / time : 0,
      accelerated: accelerated / length,
      slowed: slowed / length,
      stroke: length / count,
    };
  }
}

/**
 * Strokes that are faster on purpose (fill, strands over air) are none of the walls and do not count.
 *
 * @param asked speed and acceleration of walls as the user asked for them
 * @returns the reach of every rung, and of all together
 */
export function reachOf(
  { moves }: Trace,
  motion: Motion,
  rungs: readonly RungPlace[],
  asked: Asked,
): { all: Reach; rungs: Reach[] } {
  const rungAt = rungFinder(rungs, moves);
  const all = new Sum();
  const each = rungs.map(() => new Sum());
  for (let i = 1; i < moves.count; i++) {
    if (moves.kind[i] !== MOVE.extrude) continue;
    const rung = rungAt(i);
    if (rung === -1 || moves.speed[i]! > asked.speed * (1 + SAME_SPEED)) continue;
    if (asked.slow !== undefined && moves.speed[i]! <= asked.slow * (1 + SAME_SPEED)) continue;
    const dx = moves.x[i]! - moves.x[i - 1]!;
    const dy = moves.y[i]! - moves.y[i - 1]!;
    const length = Math.sqrt(dx * dx + dy * dy);
    const wanted = moves.speed[i]! >= asked.speed * (1 - SAME_SPEED);
    for (const sum of [all, each[rung]!]) {
      sum.count++;
      sum.length += length;
      sum.time += motion.time[i]!;
      if (wanted) sum.at += length * Math.max(0, motion.reach[i]!);
      else sum.slowed += length;
      if (motion.acceleration[i]! >= asked.acceleration * (1 - SAME_SPEED))
        sum.accelerated += length;
    }
  }
  return { all: all.done(), rungs: each.map((sum) => sum.done()) };
}

/**
 * Acceleration, mm/s², at which a stroke that starts and ends at rest runs `share` of its length at `speed`:
 * the inverse of the reach of domain.md §2.
 */
export const accelerationFor = (speed: number, length: number, share: number): number =>
  (speed * speed) / (length * (1 - share));
