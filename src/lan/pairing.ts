/**
 * Codes that let a device in: one at a time, for two minutes, once. Clock (ms) and chance are arguments.
 */

export const CODE_LASTS_MS = 120_000;
/** Wrong codes after which nobody is let in for a while. */
export const MOST_WRONG = 10;
export const CLOSED_MS = 300_000;
/** Digits of a code: short enough to type, and ten guesses hit one in 100 000 of them. */
export const CODE_DIGITS = 6;

export type Offer = { code: string; until: number };
/** @returns whole number below the bound, unpredictable */
type Chance = (below: number) => number;

export class Pairing {
  private offered: Offer | null = null;
  private wrong = 0;
  private closed = 0;

  constructor(
    private readonly now: () => number,
    private readonly chance: Chance,
  ) {}

  /** The code that is valid now, or null. */
  current(): Offer | null {
    if (this.offered && this.now() >= this.offered.until) this.offered = null;
    return this.offered;
  }

  /** When codes are given again, ms; null while they are. */
  closedUntil(): number | null {
    return this.now() < this.closed ? this.closed : null;
  }

  /** A new code in the place of any before; null while pairing is closed. */
  offer(): Offer | null {
    if (this.closedUntil() !== null) return null;
    const code = String(this.chance(10 ** CODE_DIGITS)).padStart(CODE_DIGITS, '0');
    return (this.offered = { code, until: this.now() + CODE_LASTS_MS });
  }

  withdraw(): void {
    this.offered = null;
  }

  /**
   * Takes a code: it fits once. Wrong ones count while a code is out, also those for codes before it; without one
   * there is nothing to guess. @param same compares in constant time
   */
  take(given: string, same: (a: string, b: string) => boolean): boolean {
    const offer = this.current();
    if (!offer) return false;
    if (same(given, offer.code)) {
      this.offered = null;
      this.wrong = 0;
      return true;
    }
    if (++this.wrong >= MOST_WRONG) {
      this.offered = null;
      this.wrong = 0;
      this.closed = this.now() + CLOSED_MS;
    }
    return false;
  }
}
