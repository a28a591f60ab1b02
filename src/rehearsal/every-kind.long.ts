/** Every kind through the whole loop: `npm run test:long`. */

import { MACHINES, type MachinePreset } from '../core/bench/presets';
import { kinds } from '../core/ladders/registry';
import { benchFor, good } from '../core/testing';
import type { LadderKind } from '../core/ladders/types';
import { Loop } from './loop';
import { LimitsLoop } from './limits-loop';
import { PlaneLoop } from './plane-loop';

const SEED = 11;

const machineFor = (kind: LadderKind): MachinePreset =>
  (Object.keys(MACHINES) as MachinePreset[]).find((one) => !kind.unfit?.(benchFor(one)))!;

const all = kinds().map((kind) => [kind.id, kind] as const);
/** Kinds with a loop of their own. */
const OWN = ['plane', 'limits', 'map', 'proof'];
test.each(all.filter(([, { rule }]) => !OWN.includes(rule.kind)))(
  '%s goes through the whole loop, and its truth is a number',
  (_, kind) => {
    const bench = benchFor(machineFor(kind));
    const trial = good(good(Loop.on(kind, bench)).trial(SEED, false));
    const { min, max } = kind.bounds(bench)[kind.finds[0]]!;
    expect(Number.isFinite(trial.truth)).toBe(true);
    if (trial.value === null) expect(['edge', 'no-effect']).toContain(trial.verdict);
    else {
      expect(trial.value).toBeGreaterThanOrEqual(min);
      expect(trial.value).toBeLessThanOrEqual(max);
    }
  },
);

test.each(all.filter(([, { rule }]) => rule.kind === 'plane'))(
  '%s goes through the whole loop, both truths are numbers, and it costs little more than two ladders',
  (_, kind) => {
    const bench = benchFor(machineFor(kind));
    const loop = good(PlaneLoop.on(kind, bench));
    const { sides } = good(loop.trial(SEED));
    const bounds = kind.bounds(bench);
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
  },
);

test.each(all.filter(([, { rule }]) => rule.kind === 'limits'))(
  '%s goes through the whole loop: a limit for each step, most of them within a step of the truth',
  (_, kind) => {
    const { limits, step } = good(good(LimitsLoop.on(kind, benchFor('wren'))).trial(SEED));
    expect(limits.length).toBeGreaterThan(1);
    const near = limits.filter(({ truth, value }) =>
      Number.isFinite(truth)
        ? value !== null && Math.abs(value - truth) <= step
        : (truth === Infinity) === (value === null),
    );
    expect(near.length).toBeGreaterThanOrEqual(limits.length - 1);
  },
);
