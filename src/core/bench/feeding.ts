/** When filament may be fed by hand. */

import type { Heat } from '../link-state';
import { problem, type Problem } from '../result';

/** Below this, °C, no filament is pushed. */
const COLDEST = 170;
/** So near to what it was told, °C, a nozzle is ready. */
const NEAR = 4;

/** Why nothing is fed; null when the nozzle is as hot as it was told to be. */
export function tooCold(nozzle: Heat | undefined): Problem | null {
  const { now, target } = nozzle ?? { now: 0, target: 0 };
  if (target >= COLDEST && now >= Math.max(COLDEST, target - NEAR)) return null;
  return problem(
    'nozzle',
    target >= COLDEST
      ? `The nozzle is at ${Math.round(now)} °C on its way to ${Math.round(target)} °C.`
      : 'The nozzle is not told to be hot enough to melt filament.',
    target >= COLDEST ? 'Wait until it is there.' : `Heat it to ${COLDEST} °C at least.`,
  );
}
