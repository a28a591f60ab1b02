/** What is in force on a bench for every setting: what was tuned for it, else what its machine starts with. */

import type { Bench } from './bench';
import type { Cornering, Machine } from './machine';
import { SHAPER_SETTINGS } from './shaper';
import { SETTING_NAMES, settingInfo, valueLine, type Setting, type Values } from './settings';

/** A value for each setting; NaN where nothing is known of it. */
export function inForce(bench: Bench): Record<Setting, number> {
  const usual = Object.fromEntries(
    SETTING_NAMES.map((setting) => [setting, settingInfo(setting).usual(bench)]),
  );
  return { ...usual, ...bench.tuned } as Record<Setting, number>;
}

/** What a command brings and every print feels, whichever ladder it is. */
const FELT: readonly Setting[] = [
  'advance',
  'acceleration',
  'jerk',
  'deviation',
  'square',
  ...Object.values(SHAPER_SETTINGS).flatMap((part) => Object.values(part)),
];

/** Values of the ledger that a file sets before anything is tested: without them it would test another machine. */
export function foundByCommand(bench: Bench): Values {
  const found = FELT.flatMap((setting) => {
    const value = bench.tuned?.[setting];
    return value === undefined || valueLine(setting, value, bench) === null
      ? []
      : [[setting, value] as const];
  });
  return Object.fromEntries(found);
}

/** Whether it is known what a machine has of a setting before a file changes it. */
export const knownBefore = (setting: Setting, { tuned, machine }: Bench): boolean =>
  setting !== 'advance' || tuned?.advance !== undefined || machine.advance !== undefined;

/** First-layer offset that a file adds, mm: none where the machine has it already, or it would act twice. */
export const addedOffset = (bench: Bench): number =>
  bench.carried?.includes('zOffset') ? 0 : inForce(bench).zOffset;

/** The machine as it stands with what was tuned put into it: what a file has to restore at its end. */
export function tunedMachine(bench: Bench): Machine {
  const { machine, tuned } = bench;
  if (!tuned || Object.keys(tuned).length === 0) return machine;
  const { acceleration = machine.limits.printAcceleration } = tuned;
  return {
    ...machine,
    limits: {
      ...machine.limits,
      printAcceleration: acceleration,
      cornering: tunedCornering(machine.limits.cornering, tuned),
    },
  };
}

function tunedCornering(now: Cornering, tuned: NonNullable<Bench['tuned']>): Cornering {
  switch (now.model) {
    case 'jerk':
      return tuned.jerk === undefined ? now : { ...now, x: tuned.jerk, y: tuned.jerk };
    case 'junction-deviation':
      return { ...now, deviation: tuned.deviation ?? now.deviation };
    case 'square-corner':
      return { ...now, speed: tuned.square ?? now.speed };
  }
}
