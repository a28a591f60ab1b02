/** When a machine counts as cooled: not when it was told, but when its temperatures are seen to fall. */

import type { Heat, Temperatures } from '../core/link-state';

/** Nobody burns anything at this, °C. */
const COLD = 50;
/** A heater that says that it is off has to fall by so much, one that says nothing of it by so much more, °C. */
const FALLS = 1;
const FALLS_UNSAID = 5;

export const heatersOf = ({ nozzle, bed, others = [] }: Temperatures): Heat[] =>
  [nozzle, bed, ...others].filter((one) => one !== undefined);

/** Whether any heater is told to be warm, or is warm, as far as the machine has said. */
export const isWarm = (heat: Temperatures): boolean =>
  heatersOf(heat).some(({ now, target }) => target > 0 || now >= COLD);

export class CoolWatch {
  /** The highest that each heater was seen at since they were told to be off, °C. */
  private readonly most: number[] = [];

  /** @returns whether every heater that speaks is cold, or off and falling */
  look(heat: Temperatures): boolean {
    const heaters = heatersOf(heat);
    let all = heat.nozzle !== undefined;
    heaters.forEach(({ now, target }, i) => {
      this.most[i] = Math.max(this.most[i] ?? -Infinity, now);
      const falls = this.most[i] - now >= (Number.isNaN(target) ? FALLS_UNSAID : FALLS);
      if (target > 0 || !(now < COLD || falls)) all = false;
    });
    return all;
  }
}
