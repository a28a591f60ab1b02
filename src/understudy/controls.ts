/** What a simulated machine obeys and what runs with its clock: heaters, fan, the tool in use, advance, shaper. */

import type { Bench } from '../core/bench/bench';
import { CHANGES } from '../core/dialect/changes';
import type { Trace } from '../core/gcode/trace';
import type { Values as RowValues } from '../core/dialect/template';
import { Heater } from './heater';
import { Shaping, type Shapers } from './shaping';
import type { Truths } from './truths';

/** A fan blows up and runs down with this time constant, s. */
const FAN_CONSTANT = 0.8;

/** Faults, and what the machine has stored: how much higher than told it prints, mm, and values of its rows. */
type Given = { brokenHeater?: boolean; raised?: number; stored?: RowValues };

export class Controls {
  /** Seconds since the first line. */
  time = 0;
  tool = 0;
  /** Share of full at which the fan really runs. */
  fan = 0;
  /** Pressure advance in force, s. */
  advance = 0;
  /** Impulses of the shaper of each axis; null for none. */
  shapers: Shapers = { x: null, y: null };
  private readonly shaping: Shaping;
  /** How much higher than told the nozzle stands, mm: nudged live, and by what the machine has stored. */
  raised: number;
  private fanTarget = 0;
  private readonly nozzle: Heater[];
  private readonly bed: Heater;
  private readonly heaters: Heater[];

  constructor(
    { machine }: Bench,
    private readonly truths: Truths,
    { brokenHeater = false, raised = 0, stored = {} }: Given = {},
  ) {
    this.raised = raised;
    this.shaping = new Shaping(machine.dialect, stored);
    this.shapers = this.shaping.trains();
    this.nozzle = Array.from(
      { length: Math.max(1, machine.extruder.tools) },
      () => new Heater(truths.heats.nozzle),
    );
    if (brokenHeater) this.nozzle[0]!.broken = true;
    this.bed = new Heater(truths.heats.bed);
    this.heaters = [...this.nozzle, this.bed];
  }

  get tools(): number {
    return this.nozzle.length;
  }

  /** True temperature of the melt in the nozzle in use, °C. */
  get melt(): number {
    return this.nozzle[this.tool]!.celsius + this.truths.sensor;
  }

  /** Obeys a change of setting. @returns why the print ends here, or null */
  obey({ changes }: Trace, at: number): string | null {
    const value = changes.value[at]!;
    const heater = this.nozzle[Math.min(changes.tool[at]!, this.nozzle.length - 1)]!;
    switch (CHANGES[changes.code[at]!]) {
      case 'nozzle':
        heater.target = value;
        break;
      case 'bed':
        this.bed.target = value;
        break;
      case 'wait-nozzle': {
        const waited = heater.wait();
        if (waited === Infinity)
          return `line ${changes.line[at]}: the nozzle does not heat; the machine has stopped.`;
        this.pass(waited, heater);
        break;
      }
      case 'wait-bed':
        this.pass(this.bed.wait(), this.bed);
        break;
      case 'dwell':
        this.pass(value);
        break;
      case 'fan':
        this.fanTarget = value;
        break;
      case 'advance':
        this.advance = value;
        break;
      case 'dz':
        this.raised += value;
        break;
      case 'tool':
        this.tool = Math.min(value, this.nozzle.length - 1);
        break;
      default: // Motion knows the rest, or it does nothing here.
        if (this.shaping.take(CHANGES[changes.code[at]!]!, value))
          this.shapers = this.shaping.trains();
    }
    return null;
  }

  /** Lets time pass for everything; `done` has had its share already. */
  pass(seconds: number, done: Heater | null = null): void {
    if (!(seconds > 0)) return;
    this.time += seconds;
    for (const heater of this.heaters) if (heater !== done) heater.run(seconds);
    this.fan += (this.fanTarget - this.fan) * (1 - Math.exp(-seconds / FAN_CONSTANT));
  }
}
