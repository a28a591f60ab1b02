/**
 * An axis that rings: x″ + 2ζω x′ + ω² x = −a, x the distance between where the head is and where it was told
 * to be. Stepped exactly for a steady acceleration, so that the length of a step does not matter
 * (any text on linear systems; e.g. L. Meirovitch, Fundamentals of Vibrations, 2001, ch. 1).
 */

/** Moments that are remembered: longer than the slowest shaper looks back. */
const KEPT = 256;

export class Ringing {
  x = 0;
  private v = 0;
  private readonly omega: number;
  private readonly damped: number;
  /** Where it was before, and when, s, round and round; the newest stands at `now`. */
  private readonly places = new Float64Array(KEPT);
  private readonly times = new Float64Array(KEPT);
  private now = 0;

  /** @param hertz first resonance; @param zeta damping ratio, 0..1 */
  constructor(
    hertz: number,
    private readonly zeta: number,
  ) {
    this.omega = 2 * Math.PI * hertz;
    this.damped = this.omega * Math.sqrt(1 - zeta * zeta);
  }

  /** A jump of the commanded speed, mm/s. */
  jump(speed: number): void {
    this.v -= speed;
  }

  run(acceleration: number, seconds: number): void {
    const { omega, zeta, damped } = this;
    const rest = -acceleration / (omega * omega);
    const decay = Math.exp(-zeta * omega * seconds);
    const [c, s] = [Math.cos(damped * seconds), Math.sin(damped * seconds)];
    const x = this.x - rest;
    const b = (this.v + zeta * omega * x) / damped;
    this.x = rest + decay * (x * c + b * s);
    this.v = decay * (this.v * c - ((omega * omega * x + zeta * omega * this.v) / damped) * s);
    const time = this.times[this.now]! + seconds;
    this.now = (this.now + 1) % KEPT;
    this.times[this.now] = time;
    this.places[this.now] = this.x;
  }

  /**
   * Where it is behind a shaper of two equal impulses half a period apart, set to a frequency, Hz; 0 for none
   * (N. Singer, W. Seering, J. Dyn. Sys. Meas. Control 112, 1990). An axis is linear: what follows both impulses is the
   * mean of what follows each.
   */
  shaped(hertz: number): number {
    if (hertz <= 0) return this.x;
    return (this.x + this.before(1 / (2 * hertz))) / 2;
  }

  private before(seconds: number): number {
    const { places, times } = this;
    const at = times[this.now]! - seconds;
    let after = this.now;
    for (let n = 1; n < KEPT; n++) {
      const i = (this.now - n + KEPT) % KEPT;
      if (times[i]! <= at) {
        const share = (at - times[i]!) / Math.max(1e-9, times[after]! - times[i]!);
        return places[i]! + share * (places[after]! - places[i]!);
      }
      after = i;
    }
    return places[after]!;
  }
}
