/** The understudies that stand ready, and the benches that they play. */

import { joinBench, type Bench } from '../core/bench/bench';
import { FILAMENTS, MACHINES, type MachinePreset } from '../core/bench/presets';

/** Ready-made ones: a machine like one of the demo's, and the seed of what is hidden in it. */
export const READY: { name: string; about: string; seed: number }[] = [
  { name: 'Calm day', about: 'Nothing about it is unusual', seed: 47 },
  { name: 'Warm sensor', about: 'It is hotter than it says', seed: 46 },
  { name: 'Damp cellar', about: 'Its spool likes to string', seed: 124 },
  { name: 'Loose belt', about: 'Its axes ring for long', seed: 64 },
];

/** Largest seed. */
export const MOST_SEED = 0x7fffffff;

/** One of the four demo machines with a filament that is usual on it. */
export const demoBench = (machine: MachinePreset): Bench =>
  joinBench(MACHINES[machine], { diameter: 0.4 }, FILAMENTS[machine === 'wren' ? 'quill' : 'moss']);
