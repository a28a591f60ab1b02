/**
 * Pages are made a few at a time, and whoever came first goes first: under load each waits its turn instead of all
 * waiting for all. What nobody waits for any more is not begun.
 */

export type Turn = {
  /** When it came, ms; one that comes again keeps its place. */
  came: number;
  /** Whether anybody still waits for it. */
  wanted: () => boolean;
  /** @returns ends when it is answered */
  work: () => Promise<void>;
};

export class Queue {
  private running = 0;
  private waiting: Turn[] = [];

  /** @param most that are made at once */
  constructor(private readonly most: number) {}

  get length(): number {
    return this.waiting.length;
  }

  add(turn: Turn): void {
    // Nearly always the last: looked for from the end.
    let at = this.waiting.length;
    while (at > 0 && this.waiting[at - 1]!.came > turn.came) at--;
    this.waiting.splice(at, 0, turn);
    this.next();
  }

  /** @returns whether it was still waiting */
  leave(turn: Turn): boolean {
    const at = this.waiting.indexOf(turn);
    if (at === -1) return false;
    this.waiting.splice(at, 1);
    return true;
  }

  private next(): void {
    while (this.running < this.most) {
      const turn = this.waiting.shift();
      if (!turn) return;
      if (!turn.wanted()) continue;
      this.running++;
      void turn
        .work()
        .catch(() => undefined)
        .finally(() => {
          this.running--;
          this.next();
        });
    }
  }
}
