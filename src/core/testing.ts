/** Benches and ladders for tests. */

import { joinBench, type Bench } from './bench/bench';
import { DEFAULT_NOZZLE, FILAMENTS, MACHINES, type MachinePreset } from './bench/presets';
import { makeLadder, type Made } from './ladders/make';
import { kindOf } from './ladders/registry';
import type { LadderKind } from './ladders/types';
import type { Result } from './result';

/** The value of a result that must be good. */
export function good<T>(result: Result<T>): T {
  if (!result.ok) throw new Error(`expected a value: ${JSON.stringify(result.problems)}`);
  return result.value;
}

/** A demo bench, with parts replaced. */
export function benchFor(
  machine: MachinePreset = 'heron',
  { bore = DEFAULT_NOZZLE.diameter, filament = FILAMENTS.moss as Bench['filament'] } = {},
): Bench {
  return joinBench(
    structuredClone(MACHINES[machine]),
    { diameter: bore },
    structuredClone(filament),
  );
}

export const temperatureKind = (): LadderKind => good(kindOf('temperature'));

export const makeTemperature = (
  spec: Record<string, number> = {},
  bench: Bench = benchFor(),
): Made => good(makeLadder('temperature', spec, bench));
