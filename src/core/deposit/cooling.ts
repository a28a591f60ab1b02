/** Time for a layer to harden before the next is laid on it. */

import { distance } from '../shape/region';
import { pathLength, type Step } from './step';

/** Slower than this, mm/s, the nozzle itself heats the part more than waiting cools it. */
const SLOWEST = 10;

/**
 * Slows the strokes of one layer until it takes at least `shortest` s. Bridges keep their speed, since a slow
 * strand sags; strokes that climb nothing else are all slowed by the same factor.
 *
 * @returns the same steps with new speeds; never slower than 10 mm/s, even if the layer stays short
 */
export function slowForCooling(steps: Step[], shortest: number, travelSpeed: number): Step[] {
  let fixed = 0;
  let free = 0;
  let at: { x: number; y: number } | null = null;
  for (const step of steps) {
    if (step.do === 'travel') {
      if (at) fixed += distance(at, step.to) / travelSpeed;
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
