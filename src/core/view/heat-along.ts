/** Temperatures of a print along the ladder itself: how warm the nozzle was at the height that was printed then. */

import type { HeatRow } from '../link-state';
import type { Rung } from '../plan/plan';

/** A temperature at a place along the axis that every screen shares, mm from its lower end; °C. */
export type Warmth = { along: number; nozzle: number; target: number };

type Placed = Pick<Rung, 'index' | 'line' | 'z'>;

/**
 * @param last line at which the print ends
 * @returns for each rung that was begun what was measured while it printed, in the order of printing; rows of before
 *   the first rung, rows of a nozzle that is told to be off, and rows that say no line, are left out
 */
export function heatAlong(
  rows: readonly HeatRow[],
  rungs: readonly Placed[],
  last: number,
): { rung: number; points: Warmth[] }[] {
  const inOrder = [...rungs].sort((a, b) => a.line - b.line);
  return inOrder.flatMap(({ index, line, z }, i) => {
    const end = Math.max(line + 1, inOrder[i + 1]?.line ?? last);
    const points = rows.flatMap(([, nozzle, target, , , at]) =>
      // Told to be off it cools, and prints nothing any more.
      at === undefined ||
      target <= 0 ||
      at < line ||
      at > end ||
      (at === end && i < inOrder.length - 1)
        ? []
        : [{ along: z.from + ((at - line) / (end - line)) * (z.to - z.from), nozzle, target }],
    );
    return points.length > 0 ? [{ rung: index, points }] : [];
  });
}

/** Least span of a scale of temperatures, and what is left free at its ends, °C. */
const [LEAST, FREE] = [16, 2];

/** Ends of a scale on which these temperatures are told apart, °C. */
export function warmthScale(celsius: readonly number[]): { low: number; high: number } {
  const [low, high] = [Math.min(...celsius) - FREE, Math.max(...celsius) + FREE];
  const more = Math.max(0, LEAST - (high - low)) / 2;
  return { low: Math.floor(low - more), high: Math.ceil(high + more) };
}
