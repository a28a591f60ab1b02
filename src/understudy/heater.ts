/** A heater as a first-order system: it goes to its target by a fixed share of the way in each time constant. */

import { ROOM } from './plastic';

/** A wait is over when the heater is this near, °C. */
export const REACHED = 1;

export class Heater {
  celsius = ROOM;
  target = 0;
  /** A broken heater only cools. */
  broken = false;

  /** @param constant s */
  constructor(readonly constant: number) {}

  /** Lets time pass. */
  run(seconds: number): void {
    const goal = this.goal;
    this.celsius = goal + (this.celsius - goal) * Math.exp(-seconds / this.constant);
  }

  private get goal(): number {
    return this.broken ? ROOM : Math.max(ROOM, this.target);
  }

  /** Seconds until the target is reached, and they pass; Infinity for a broken heater, and none pass. */
  wait(): number {
    const { goal } = this;
    if (this.broken && Math.abs(this.celsius - this.target) > REACHED) return Infinity;
    const far = Math.abs(this.celsius - goal);
    if (far <= REACHED) return 0;
    const seconds = this.constant * Math.log(far / REACHED);
    this.run(seconds);
    return seconds;
  }
}
