/** The next ladder: what would make the value surer, or where to look when the answer lies outside. */

import { climb, type Range } from '../ladders/climb';
import type { Ends as Bounds } from '../ladders/types';
import { snap, STEP_SLACK, tidy } from '../numbers';
import type { NextLadder } from './finding';
import type { Gathered } from './gather';

const FEWEST = 5;
const MOST = 9;

/**
 * Around a range that holds the answer: one step wider on both sides, in the finest step that keeps it within
 * nine rungs, and at least five where the bounds allow.
 */
export function refine(
  [low, high]: readonly [number, number],
  resolution: number,
  bounds: Bounds,
  fewest = FEWEST,
  most = MOST,
): Range | null {
  for (let n = 1; n < 1000; n++) {
    const step = tidy(n * resolution);
    const floor = up(bounds.min, step);
    const ceiling = down(bounds.max, step);
    let from = Math.max(floor, down(low - step, step));
    let to = Math.min(ceiling, up(high + step, step));
    while (count(from, to, step) < fewest && (from > floor || to < ceiling)) {
      if (to < ceiling) to = tidy(to + step);
      if (from > floor && count(from, to, step) < fewest) from = tidy(from - step);
    }
    const rungs = count(from, to, step);
    if (rungs > most) continue;
    return rungs >= 2 ? { from, to, step } : null;
  }
  return null;
}

/**
 * Beyond an end: the same step, one rung back over the end, the rest outside.
 *
 * @returns null when the bounds leave no new rung
 */
export function beyond(end: number, direction: 1 | -1, step: number, bounds: Bounds): Range | null {
  const back = tidy(end - direction * step);
  const limit = direction > 0 ? bounds.max : bounds.min;
  const room = Math.floor(((limit - end) * direction) / step + STEP_SLACK);
  const outside = Math.min(room, FEWEST - 2);
  if (outside < 1) return null;
  return { from: back, to: tidy(end + direction * outside * step), step };
}

const count = (from: number, to: number, step: number) => Math.round((to - from) / step) + 1;
const down = (value: number, step: number) =>
  snap(Math.floor(value / step + STEP_SLACK) * step, step);
const up = (value: number, step: number) => snap(Math.ceil(value / step - STEP_SLACK) * step, step);

/** The next ladder climbs the same way as this one. */
export function nextOf(
  { setting, falls }: Pick<Gathered, 'setting' | 'falls'>,
  range: Range,
  why: string,
): NextLadder {
  const [low, high] = [Math.min(range.from, range.to), Math.max(range.from, range.to)];
  const turned = falls ? { ...range, from: high, to: low } : { ...range, from: low, to: high };
  return { ranges: { [setting]: turned }, rungs: climb(turned).length, why };
}
