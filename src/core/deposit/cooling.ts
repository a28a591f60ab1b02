/** Time for a layer to harden before the next is laid on it. */

import { distance } from '../shape/region';
import { pathLength, type Step } from './step';

/** Slower than this, mm/s, the nozzle itself heats the part more than waiting cools it. */
const SLOWEST = 10;

/** What a layer spends without laying: ways at a speed and an acceleration, and drawing back and giving back, s. */
export type Spent = { travelSpeed: number; travelAcceleration: number; drawing: number };

/**
 * Slows the strokes of one layer until it takes at least `shortest` s. Bridges keep their speed, since a slow
 * strand sags; strokes that climb nothing else are all slowed by the same factor.
 *
 * @returns the same steps with new speeds; never slower than 10 mm/s, even if the layer stays short
 */
export function slowForCooling(
  steps: Step[],
  shortest: number,
  { travelSpeed, travelAcceleration, drawing }: Spent,
): Step[] {
  let fixed = 0;
  let free = 0;
  let at: { x: number; y: number } | null = null;
  for (const step of steps) {
    if (step.do === 'travel') {
      if (at) fixed += wayTime(distance(at, step.to), travelSpeed, travelAcceleration);
      if (step.retract) fixed += drawing;
      at = step.to;
    }
    if (step.do !== 'stroke') continue;
    const time = pathLength(step.path) / step.speed;
    if (step.role === 'bridge') fixed += time;
    else free += time;
    at = step.path.at(-1)!;
  }
  if (free === 0 || fixed + free >= shortest) return steps;
  const factor = free / (shortest - fixed);
  return steps.map((step) =>
    step.do === 'stroke' && step.role !== 'bridge'
      ? { ...step, speed: Math.max(Math.min(SLOWEST, step.speed), step.speed * factor) }
      : step,
  );
}

/** From rest to rest: a trapezoid, or a triangle where the way is too short for the speed (domain.md §2). */
const wayTime = (way: number, speed: number, acceleration: number): number =>
  way >= speed ** 2 / acceleration
    ? way / speed + speed / acceleration
    : 2 * Math.sqrt(way / acceleration);
