/** How warm a machine is, in words. */

import type { Heat, Temperatures } from './link-state';

/** From here on a nozzle or a bed burns the hand, °C. */
export const HOT = 50;
/** This near to its target, °C, a heater has arrived. */
const NEAR = 3;

const arrived = ({ now, target }: Heat): boolean => Math.abs(now - target) <= NEAR;

/** What is said beside the temperature of one heater. */
export function heatNote(heat: Heat | undefined): string {
  if (!heat) return 'not said';
  if (heat.target > 0)
    return arrived(heat)
      ? `held at ${Math.round(heat.target)} °C`
      : `to ${Math.round(heat.target)} °C`;
  return heat.now >= HOT ? 'off, still hot' : 'off';
}

/** What is said of all of them. */
export function heatSaid({ nozzle, bed, others = [] }: Temperatures): string {
  const all = [nozzle, bed, ...others].filter((one) => one !== undefined);
  if (all.length === 0) return 'It has not said how warm it is';
  const told = all.filter(({ target }) => target > 0);
  if (told.length > 0) return told.every(arrived) ? 'Hot, as it should be' : 'Heating';
  return all.some(({ now }) => now >= HOT) ? 'Cooling: do not touch it yet' : 'Cold and idle';
}
