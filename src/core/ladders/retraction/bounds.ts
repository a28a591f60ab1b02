/** What a bench allows of retraction, and why. */

import type { Bench } from '../../bench/bench';
import { COLD_ZONE } from '../../bench/machine';
import { short } from '../../numbers';
import type { Ends } from '../types';

type Bounds = Ends & { why: string };

export function distanceBounds({ machine }: Bench): Bounds {
  const max = COLD_ZONE[machine.extruder.drive];
  return { min: 0, max, why: `past ${max} mm melt is drawn into the cold zone, where it jams` };
}

/** Speeds that the extruder turns at, from the least that is of use. */
export const speedBounds = ({ machine }: Bench, least: number): Bounds => ({
  min: least,
  max: machine.limits.speed.e,
  why: `the extruder of ${machine.name} turns at ${short(least)} to ${short(machine.limits.speed.e)} mm/s`,
});
