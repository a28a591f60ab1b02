/** Time of a simulated machine: some times as fast as the real one, or as fast as it is asked to pass. */

export class Clock {
  private skipped = 0;
  private seen = 0;
  private readonly began = performance.now();

  /** @param speed simulated seconds in a real one; Infinity for a machine whose waits take no time */
  constructor(private readonly speed: number) {}

  get instant(): boolean {
    return this.speed === Infinity;
  }

  /** Seconds since it was switched on. */
  now(): number {
    const real = this.instant ? 0 : ((performance.now() - this.began) / 1000) * this.speed;
    return real + this.skipped;
  }

  skip(seconds: number): void {
    this.skipped += seconds;
  }

  /** Seconds since this was asked last. */
  elapsed(): number {
    const now = this.now();
    const passed = now - this.seen;
    this.seen = now;
    return passed;
  }

  realMs(seconds: number): number {
    return this.instant ? 0 : (Math.max(0, seconds) * 1000) / this.speed;
  }
}
