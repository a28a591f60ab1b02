/** When filament may be fed by hand. */

import type { Heat } from '../link-state';
import { problem, type Problem } from '../result';

/** So near to what it was told, °C, a nozzle is ready. */
const NEAR = 4;

/** Whether a nozzle is on its way to a temperature at which a material is extruded, or there. */
export const meltsAt = (nozzle: Heat | undefined, coldest: number): boolean =>
  (nozzle?.target ?? 0) >= coldest;

/**
 * Why nothing is fed; null when the nozzle is as hot as it was told to be.
 *
 * @param coldest °C at which the material is still extruded
 */
export function tooCold(nozzle: Heat | undefined, coldest: number): Problem | null {
  const { now, target } = nozzle ?? { now: 0, target: 0 };
  if (!meltsAt(nozzle, coldest))
    return problem(
      'nozzle',
      'The nozzle is not told to be hot enough to melt filament.',
      `Heat it to ${coldest} °C at least.`,
    );
  if (now >= Math.max(coldest, target - NEAR)) return null;
  return problem(
    'nozzle',
    `The nozzle is at ${Math.round(now)} °C on its way to ${Math.round(target)} °C.`,
    'Wait until it is there.',
  );
}
