/** How long answers take on a wire: their mean, and how far they are off it. */

const LONGEST_PATIENCE_MS = 4000;
const LONGEST_QUIET_MS = 250;
const SHORTEST_QUIET_MS = 6;

export class RoundTrip {
  private mean = 5;
  private spread = 2;

  /** @param least shortest wait for an answer, ms */
  constructor(private readonly least: number) {}

  took(ms: number): void {
    const off = Math.abs(ms - this.mean);
    this.mean += (ms - this.mean) / 8;
    this.spread += (off - this.spread) / 4;
  }

  /** How long an answer is waited for before the machine is asked, ms. */
  get patience(): number {
    return Math.min(LONGEST_PATIENCE_MS, Math.max(this.least, 2 * (this.mean + 4 * this.spread)));
  }

  /** After an answer, others to what was sent with it may still be on their way for so long, ms. */
  get quiet(): number {
    return Math.min(LONGEST_QUIET_MS, Math.max(SHORTEST_QUIET_MS, 2 * this.mean + this.spread));
  }
}
