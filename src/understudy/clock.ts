/** Time of a simulated machine: some times as fast as the real one, or as fast as it is asked to pass. */

/**
 * Simulated seconds in a real one; told anew at every moment where somebody may change it, for the time in which it
 * heats and finds its origin, and for the rest. 0 holds it.
 */
export type Speed = number | ((readies: boolean) => number);

/** Waits of a clock that may change are looked at again after so long, ms. */
const LOOK_MS = 100;

export class Clock {
  private skipped = 0;
  private passed = 0;
  private seen = 0;
  private last = performance.now();
  private readies = false;

  /** @param speed Infinity for a machine whose waits take no time */
  constructor(private readonly speed: Speed) {}

  get instant(): boolean {
    return this.speed === Infinity;
  }

  private get times(): number {
    return typeof this.speed === 'number' ? this.speed : this.speed(this.readies);
  }

  /** Seconds since it was switched on. */
  now(): number {
    if (!this.instant) {
      const real = performance.now();
      this.passed += ((real - this.last) / 1000) * this.times;
      this.last = real;
    }
    return this.passed + this.skipped;
  }

  /** Does something when so many of its seconds have passed; never after Infinity. @returns ends the wait */
  after(seconds: number, then: () => void): () => void {
    const until = this.now() + seconds;
    let timer: NodeJS.Timeout | undefined;
    const wait = (): void => {
      if (until === Infinity) return;
      const left = this.realMs(until - this.now());
      const steady = typeof this.speed === 'number';
      timer = setTimeout(
        () => (steady || this.now() >= until ? then() : wait()),
        steady ? left : Math.min(left, LOOK_MS),
      );
    };
    wait();
    return () => clearTimeout(timer);
  }

  /** What it passes with from now on. */
  readying(readies: boolean): void {
    this.now();
    this.readies = readies;
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
    return this.instant || seconds <= 0 ? 0 : (seconds * 1000) / this.times;
  }
}
