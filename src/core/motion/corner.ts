/** Speed through a corner, under the three models that firmware uses (domain.md §2). */

import type { Cornering } from '../bench/machine';

/** Direction of a move per mm of path: unit vector in x, y, z and filament per mm. */
export type Direction = { x: number; y: number; z: number; e: number };

/** Directions that differ by less than this, per mm, are one: coordinates carry three decimals. */
const STRAIGHT = 1e-6;

/**
 * Largest speed, mm/s, at which a corner may be taken; Infinity where the path goes straight on.
 *
 * @param acceleration mm/s², of the slower of the two moves
 */
export function cornerSpeed(
  cornering: Cornering,
  acceleration: number,
  into: Direction,
  out: Direction,
): number {
  switch (cornering.model) {
    case 'jerk':
      return Math.min(
        axisLimit(cornering.x, into.x, out.x),
        axisLimit(cornering.y, into.y, out.y),
        axisLimit(cornering.z, into.z, out.z),
        axisLimit(cornering.e, into.e, out.e),
      );
    case 'junction-deviation':
      return junctionSpeed(cornering.deviation, acceleration, into, out);
    case 'square-corner':
      return junctionSpeed(
        (cornering.speed ** 2 * (Math.SQRT2 - 1)) / acceleration,
        acceleration,
        into,
        out,
      );
  }
}

const axisLimit = (jerk: number, into: number, out: number): number => {
  const change = Math.abs(out - into);
  return change < STRAIGHT ? Infinity : jerk / change;
};

function junctionSpeed(deviation: number, acceleration: number, into: Direction, out: Direction) {
  // θ lies between the reversed way in and the way out: straight on is π, full reversal 0.
  const cos = -(into.x * out.x + into.y * out.y + into.z * out.z);
  const half = Math.sqrt(Math.max(0, (1 - cos) / 2));
  if (half > 1 - STRAIGHT) return Infinity;
  return Math.sqrt((acceleration * deviation * half) / (1 - half));
}
