/**
 * An axis that rings: x″ + 2ζω x′ + ω² x = −a for each of its modes, x the distance between where the head is and where it
 * was told to be. Stepped exactly for a steady acceleration, so that the length of a step does not matter
 * (any text on linear systems; e.g. L. Meirovitch, Fundamentals of Vibrations, 2001, ch. 1).
 */

import type { Train } from '../core/shake/trains';

/** One way in which an axis rings: natural frequency, Hz, damping ratio, and how much of a push goes into it. */
export type Mode = { hz: number; damping: number; share: number };

/** Steps that are remembered: longer than the slowest shaper looks back. */
const KEPT = 256;

class Oscillator {
  x = 0;
  v = 0;
  private readonly omega: number;
  private readonly damped: number;
  /** Where each step that is remembered began. */
  private readonly places = new Float64Array(KEPT);
  private readonly speeds = new Float64Array(KEPT);

  constructor(
    hertz: number,
    private readonly zeta: number,
    readonly share: number,
  ) {
    this.omega = 2 * Math.PI * hertz;
    this.damped = this.omega * Math.sqrt(1 - zeta * zeta);
  }

  run(acceleration: number, seconds: number, step: number): void {
    const { omega, zeta, damped } = this;
    this.places[step] = this.x;
    this.speeds[step] = this.v;
    const rest = -acceleration / (omega * omega);
    const decay = Math.exp(-zeta * omega * seconds);
    const [c, s] = [Math.cos(damped * seconds), Math.sin(damped * seconds)];
    const x = this.x - rest;
    const b = (this.v + zeta * omega * x) / damped;
    this.x = rest + decay * (x * c + b * s);
    this.v = decay * (this.v * c - ((omega * omega * x + zeta * omega * this.v) / damped) * s);
  }

  pull(): number {
    return -2 * this.zeta * this.omega * this.v - this.omega * this.omega * this.x;
  }

  /** Where it was, so long into a step that is remembered. */
  within(step: number, seconds: number, acceleration: number): number {
    const { omega, zeta, damped } = this;
    const rest = -acceleration / (omega * omega);
    const x = this.places[step]! - rest;
    const b = (this.speeds[step]! + zeta * omega * x) / damped;
    const angle = damped * seconds;
    return rest + Math.exp(-zeta * omega * seconds) * (x * Math.cos(angle) + b * Math.sin(angle));
  }
}

export class Ringing {
  private readonly modes: Oscillator[];
  /** When each step that is remembered began, s, and its acceleration, round and round; the newest stands at `now`. */
  private readonly times = new Float64Array(KEPT);
  private readonly accelerations = new Float64Array(KEPT);
  private now = 0;
  private steps = 0;
  private time = 0;

  /** @param hertz first resonance; @param zeta damping ratio, 0..1; @param second another mode, with its share */
  constructor(hertz: number, zeta: number, second: Mode | null = null) {
    const share = 1 - (second?.share ?? 0);
    this.modes = [new Oscillator(hertz, zeta, share)];
    if (second) this.modes.push(new Oscillator(second.hz, second.damping, second.share));
  }

  get x(): number {
    let sum = 0;
    for (const { x, share } of this.modes) sum += share * x;
    return sum;
  }

  /** Acceleration of the head, mm/s²: what springs and damping do to it. */
  pull(): number {
    let sum = 0;
    for (const mode of this.modes) sum += mode.share * mode.pull();
    return sum;
  }

  /** A jump of the commanded speed, mm/s. */
  jump(speed: number): void {
    for (const mode of this.modes) mode.v -= speed;
  }

  run(acceleration: number, seconds: number): void {
    this.now = (this.now + 1) % KEPT;
    this.steps++;
    this.times[this.now] = this.time;
    this.accelerations[this.now] = acceleration;
    for (const mode of this.modes) mode.run(acceleration, seconds, this.now);
    this.time += seconds;
  }

  /**
   * Where it is behind a shaper; null for none. An axis is linear: what follows all impulses is the sum of what follows
   * each (N. Singer, W. Seering, J. Dyn. Sys. Meas. Control 112, 1990).
   */
  shaped(train: Train | null): number {
    if (!train) return this.x;
    let sum = 0;
    for (let k = 0; k < train.shares.length; k++)
      sum += train.shares[k]! * (train.times[k] === 0 ? this.x : this.before(train.times[k]!));
    return sum;
  }

  private before(seconds: number): number {
    const { times, accelerations, now, modes } = this;
    const at = this.time - seconds;
    for (let n = 0; n < Math.min(KEPT, this.steps); n++) {
      const i = (now - n + KEPT) % KEPT;
      if (times[i]! > at) continue;
      let sum = 0;
      for (const mode of modes)
        sum += mode.share * mode.within(i, at - times[i]!, accelerations[i]!);
      return sum;
    }
    return 0;
  }
}
