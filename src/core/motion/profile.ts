/** One move under one acceleration: a trapezoid, or a triangle when it is too short (domain.md §2). */

/** Highest speed that a move reaches, mm/s, from v0 to v1 over `length` under `a`, limit `v`. */
export const peakSpeed = (length: number, v0: number, v1: number, v: number, a: number): number =>
  Math.min(v, Math.sqrt(a * length + (v0 * v0 + v1 * v1) / 2));

/** Time of a move, s. */
export function moveTime(length: number, v0: number, v1: number, v: number, a: number): number {
  const peak = peakSpeed(length, v0, v1, v, a);
  const ramps = (2 * peak * peak - v0 * v0 - v1 * v1) / (2 * a);
  const cruise = Math.max(0, length - ramps);
  return (2 * peak - v0 - v1) / a + cruise / peak;
}

/**
 * Share of a stroke's length that runs at the asked speed `v`. Negative: the speed is never reached, and
 * {@link peakSpeed} is what the stroke really tested.
 */
export const reachShare = (length: number, v0: number, v1: number, v: number, a: number): number =>
  1 - (v * v - v0 * v0 + (v * v - v1 * v1)) / (2 * a * length);
