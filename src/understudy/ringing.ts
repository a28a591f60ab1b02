/**
 * An axis that rings: x″ + 2ζω x′ + ω² x = −a, x the distance between where the head is and where it was told
 * to be. Stepped exactly for a steady acceleration, so that the length of a step does not matter
 * (any text on linear systems; e.g. L. Meirovitch, Fundamentals of Vibrations, 2001, ch. 1).
 */

export class Ringing {
  x = 0;
  private v = 0;
  private readonly omega: number;
  private readonly damped: number;

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
  }
}

/**
 * What is left of a vibration behind a shaper of two equal impulses half a period apart, set to another
 * frequency than the true one (N. Singer, W. Seering, J. Dyn. Sys. Meas. Control 112, 1990).
 */
export const shaped = (trueHz: number, setHz: number): number =>
  setHz > 0 ? Math.abs(Math.cos((Math.PI / 2) * (trueHz / setHz))) : 1;
