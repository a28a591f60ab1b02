/** A wait that can be cut short. */

export class Nap {
  private cut: (() => void) | null = null;

  /** Until somebody wakes it, or some ms. */
  async take(ms: number): Promise<void> {
    await new Promise<void>((resolve) => {
      const timer = setTimeout(resolve, ms);
      this.cut = () => {
        clearTimeout(timer);
        resolve();
      };
    });
    this.cut = null;
  }

  wake(): void {
    this.cut?.();
  }
}
