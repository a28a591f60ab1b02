/** Steps of a range, both ends included. */

import { snap, STEP_SLACK, tidy, TYPED_SLACK } from '../numbers';

/** `growing`: 1 where every step is the same share of its value, `step` the first of them; missing or 0 for even steps. */
export type Range = { from: number; to: number; step: number; growing?: number };

const grows = ({ from, to, growing }: Range): boolean => growing === 1 && Math.min(from, to) > 0;

/** Steps in a range; a whole number when the step divides it. `from` = `to` has none. */
function stepsIn(range: Range): number {
  const { from, to, step } = range;
  if (!grows(range)) return Math.abs(to - from) / step;
  const low = Math.min(from, to);
  // Ends are kept, and steps are as many as come nearest to the first one asked for.
  return Math.round(Math.log(Math.max(from, to) / low) / Math.log(1 + step / low));
}

/** How much larger a value is than the one before it, where steps grow. */
export const ratioOf = (range: Range): number =>
  (Math.max(range.from, range.to) / Math.min(range.from, range.to)) **
  (1 / Math.max(1, stepsIn(range)));

/** Values of growing steps are round: two digits tell them apart. */
const DIGITS = 2;

/** Whether the step divides the range. */
export function isWhole(range: Range): boolean {
  const steps = stepsIn(range);
  return Math.abs(steps - Math.round(steps)) <= STEP_SLACK;
}

/**
 * Values of a range from `from` toward `to`, up or down. When the step does not divide it, the last value is
 * the last whole step inside the range, never beyond it.
 *
 * @param range      finite, `step` above 0
 * @param resolution finest step of the machine; values of growing steps are multiples of it
 */
export function climb(range: Range, resolution = 0): number[] {
  const { from, to, step } = range;
  const count = Math.floor(stepsIn(range) + STEP_SLACK);
  if (grows(range)) {
    const values = Array.from({ length: count + 1 }, (_, i) =>
      i === 0 ? from : i === count ? to : handy(from * (to / from) ** (i / count), resolution),
    );
    return [...new Set(values)];
  }
  const sign = to < from ? -1 : 1;
  return Array.from({ length: count + 1 }, (_, i) => tidy(from + sign * i * step));
}

function handy(value: number, resolution: number): number {
  const round = Number(value.toPrecision(DIGITS));
  return tidy(resolution > 0 ? Math.max(resolution, snap(round, resolution)) : round);
}

/** The nearest ranges with whole steps: one that ends short of `to`, one that goes a step further. */
export function nearestWhole(range: Range): [shorter: Range, longer: Range] {
  const { from, to, step } = range;
  const count = Math.floor(stepsIn(range) + STEP_SLACK);
  const sign = to < from ? -1 : 1;
  const end = (steps: number) => ({ ...range, to: snap(from + sign * steps * step, TYPED_SLACK) });
  return [end(count), end(count + 1)];
}

/** Steps twice as large, as many as fit between the same ends. */
export function fewer({ from, to, step }: Range): Range {
  const large = tidy(2 * step);
  const steps = Math.floor(Math.abs(to - from) / large + STEP_SLACK);
  return { from, to: tidy(from + Math.sign(to - from) * steps * large), step: large };
}
