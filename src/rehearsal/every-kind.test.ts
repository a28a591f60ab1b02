import { MACHINES, type MachinePreset } from '../core/bench/presets';
import { kinds } from '../core/ladders/registry';
import { benchFor, good } from '../core/testing';
import { Loop } from './loop';

const SEED = 11;

test.each(kinds().map((kind) => [kind.id, kind] as const))(
  '%s goes through the whole loop, and its truth is a number',
  (_, kind) => {
    const machine = (Object.keys(MACHINES) as MachinePreset[]).find(
      (one) => !kind.unfit?.(benchFor(one)),
    )!;
    const bench = benchFor(machine);
    const trial = good(good(Loop.on(kind, bench)).trial(SEED, false));
    const { min, max } = kind.bounds(bench)[kind.finds[0]]!;
    expect(Number.isFinite(trial.truth)).toBe(true);
    if (trial.value === null) expect(['edge', 'no-effect']).toContain(trial.verdict);
    else {
      expect(trial.value).toBeGreaterThanOrEqual(min);
      expect(trial.value).toBeLessThanOrEqual(max);
    }
  },
  120_000,
);
