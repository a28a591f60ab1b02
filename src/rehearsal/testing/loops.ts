/** What must hold of any kind that goes through the whole loop, by the sort of its rule. */

import type { Bench } from '../../core/bench/bench';
import type { LadderKind } from '../../core/ladders/types';
import { good } from '../../core/testing';
import { LimitsLoop } from '../limits-loop';
import { Loop } from '../loop';
import { PlaneLoop } from '../plane-loop';

export const SEED = 11;

/** One value: its truth is a number, and what is found lies within what the bench allows. */
export function throughLoop(kind: LadderKind, bench: Bench): void {
  const trial = good(good(Loop.on(kind, bench)).trial(SEED, false));
  const { min, max } = kind.bounds(bench)[kind.finds[0]]!;
  expect(Number.isFinite(trial.truth)).toBe(true);
  if (trial.value === null) expect(['edge', 'no-effect']).toContain(trial.verdict);
  else {
    expect(trial.value).toBeGreaterThanOrEqual(min);
    expect(trial.value).toBeLessThanOrEqual(max);
  }
}

/** Two values: both truths are numbers, and it costs little more than two ladders. */
export function throughPlaneLoop(kind: LadderKind, bench: Bench): void {
  const loop = good(PlaneLoop.on(kind, bench));
  const { sides } = good(loop.trial(SEED));
  const bounds = kind.bounds(bench);
  expect(sides).toHaveLength(2);
  for (const { setting, truth, value, range } of sides) {
    expect(Number.isFinite(truth)).toBe(true);
    if (value === null) continue;
    expect(value).toBeGreaterThanOrEqual(bounds[setting]!.min);
    expect(value).toBeLessThanOrEqual(bounds[setting]!.max);
    expect(range![0]).toBeLessThanOrEqual(range![1]);
  }
  if (loop.singles) {
    expect(loop.cost.minutes).toBeLessThan(1.6 * loop.singles.minutes);
    expect(loop.cost.grams).toBeLessThan(1.3 * loop.singles.grams);
  }
}

/** A limit for each step, most of them within a step of the truth. */
export function throughLimitsLoop(kind: LadderKind, bench: Bench): void {
  const { limits, step } = good(good(LimitsLoop.on(kind, bench)).trial(SEED));
  expect(limits.length).toBeGreaterThan(1);
  const near = limits.filter(({ truth, value }) =>
    Number.isFinite(truth)
      ? value !== null && Math.abs(value - truth) <= step
      : (truth === Infinity) === (value === null),
  );
  expect(near.length).toBeGreaterThanOrEqual(limits.length - 1);
}
