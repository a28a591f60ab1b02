/** How long this program itself was held up: what it did not listen to in that time was no silence of a machine. */

/** Ticks that come later than this are counted, ms. */
const STALLED_MS = 60;

export class Awake {
  private last = performance.now();

  /** Looked at regularly from now on. */
  begin(): void {
    this.last = performance.now();
  }

  /** @returns how long it was held up since the last look, ms; nothing where the look came in time */
  missed(): number {
    const now = performance.now();
    const gap = now - this.last;
    this.last = now;
    return gap > STALLED_MS ? gap : 0;
  }
}
