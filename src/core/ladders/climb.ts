/** Steps of a range, both ends included. */

import { snap, STEP_SLACK, tidy, TYPED_SLACK } from '../numbers';

export type Range = { from: number; to: number; step: number };

/** Steps in a range; a whole number when the step divides it. `from` = `to` has none. */
const stepsIn = ({ from, to, step }: Range): number => Math.abs(to - from) / step;

/** Whether the step divides the range. */
export function isWhole(range: Range): boolean {
  const steps = stepsIn(range);
  return Math.abs(steps - Math.round(steps)) <= STEP_SLACK;
}

/**
 * Values of a range from `from` toward `to`, up or down. When the step does not divide it, the last value is
 * the last whole step inside the range, never beyond it.
 *
 * @param range finite, `step` above 0
 */
export function climb(range: Range): number[] {
  const { from, to, step } = range;
  const count = Math.floor(stepsIn(range) + STEP_SLACK);
  const sign = to < from ? -1 : 1;
  return Array.from({ length: count + 1 }, (_, i) => tidy(from + sign * i * step));
}

/** The nearest ranges with whole steps: one that ends short of `to`, one that goes a step further. */
export function nearestWhole(range: Range): [shorter: Range, longer: Range] {
  const { from, to, step } = range;
  const count = Math.floor(stepsIn(range) + STEP_SLACK);
  const sign = to < from ? -1 : 1;
  const end = (steps: number) => ({ ...range, to: snap(from + sign * steps * step, TYPED_SLACK) });
  return [end(count), end(count + 1)];
}
