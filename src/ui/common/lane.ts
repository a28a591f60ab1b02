/** A helper in another thread that is asked for one thing at a time, and then for the newest only. */

export type Wish<S> = { spec: S; wish: number };

export type Helper<R> = { remote: R; close: () => void };

/** Opens a helper, and calls `broke` if it cannot be loaded or stops. */
export type Open<R> = (broke: (error: Error) => void) => Helper<R>;

/**
 * Keeps one wish under way; while it runs only the newest waits. A wish that fails is told with its number and does
 * not end the answering; a helper that broke, and so would answer nothing any more, is replaced at the next wish.
 */
export class Lane<R, S, T> {
  private helper: Helper<R> | null = null;
  private give: (error: Error) => void = () => undefined;
  private waiting: Wish<S> | null = null;
  private running = false;

  constructor(
    private readonly open: Open<R>,
    private readonly ask: (remote: R, spec: S) => Promise<T>,
    private readonly answer: (found: T, wish: number) => void,
    private readonly failed: (error: Error, wish: number) => void,
  ) {}

  /** The helper as it stands; opened if there is none. */
  get remote(): R {
    this.helper ??= this.opened();
    return this.helper.remote;
  }

  /** Answers this wish as soon as the one under way is done. Never rejects. */
  async want(wish: Wish<S>): Promise<void> {
    this.waiting = wish;
    if (this.running) return;
    this.running = true;
    try {
      while (this.waiting) {
        const now: Wish<S> = this.waiting;
        this.waiting = null;
        try {
          this.answer(await this.asked(now.spec), now.wish);
        } catch (error) {
          this.failed(error as Error, now.wish);
        }
      }
    } finally {
      this.running = false;
    }
  }

  close() {
    this.waiting = null;
    this.helper?.close();
    this.helper = null;
  }

  /** What the helper answers, or the error by which it broke: a broken helper's own promise would never settle. */
  private asked(spec: S): Promise<T> {
    return new Promise<T>((resolve, reject) => {
      this.give = reject;
      this.ask(this.remote, spec).then(resolve, reject);
    });
  }

  private opened(): Helper<R> {
    const helper = this.open((error) => {
      // One that was replaced or closed has nothing more to say.
      if (this.helper !== helper) return;
      helper.close();
      this.helper = null;
      this.give(error);
    });
    return helper;
  }
}
