/** What a value was tuned with, and whether that still stands (domain.md §9). */

import { z } from 'zod';
import type { Bench } from '../bench/bench';
import { short } from '../numbers';

/** Circumstances of a value, by name, in words as they are shown. */
export const Base = z.record(z.string(), z.string());
export type Base = z.infer<typeof Base>;

/** The circumstances on which every tuned value of a bench stands. */
export function baseOf({ machine, nozzle, filament }: Bench): Base {
  return {
    nozzle: `${short(nozzle.diameter)} mm`,
    material: filament.material,
    'filament diameter': `${short(filament.diameter)} mm`,
    feeder: machine.extruder.drive === 'direct' ? 'direct' : 'behind a tube',
  };
}

/** Why a value is stale: every circumstance that has changed since. Empty when it is fresh. */
export function staleReasons(then: Base, now: Base): string[] {
  return Object.entries(then)
    .filter(([name, was]) => now[name] !== undefined && now[name] !== was)
    .map(([name, was]) => `${name} changed from ${was} to ${now[name]}`);
}
