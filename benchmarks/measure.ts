/** Timing and printing. */

export const median = (sorted: readonly number[]): number => sorted[Math.floor(sorted.length / 2)]!;

/** Median time of one run, ms, after warming up. */
export function timed(run: () => unknown, runs: number): number {
  for (let i = 0; i < Math.ceil(runs / 4); i++) run();
  const times = Array.from({ length: runs }, () => {
    const start = performance.now();
    run();
    return performance.now() - start;
  });
  return median(times.sort((a, b) => a - b));
}

/** One line of the report; `within` tells whether a budget is kept. */
export function row(name: string, value: string, within?: boolean): void {
  const mark = within === undefined ? '' : within ? '  ok' : '  OVER';
  process.stdout.write(`${name.padEnd(34)} ${value}${mark}\n`);
}

/** Least time of several runs, ms. */
export function best(run: () => unknown, runs = 3): number {
  let least = Infinity;
  for (let i = 0; i < runs; i++) {
    const start = performance.now();
    run();
    least = Math.min(least, performance.now() - start);
  }
  return least;
}
