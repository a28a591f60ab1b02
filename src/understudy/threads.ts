/** Threads: what leaks while the head travels is drawn out over air, and wiped off over plastic. */

import type { Point } from '../core/bench/bed';
import { normal, type Random } from '../core/random';
import { CELL, type Surface } from './surface';
import type { Thread } from './samples';

/** Scatter of a thread's melt from travel to travel, in its logarithm. */
const THREAD_SCATTER = 0.3;
/** Gaps shorter than this, mm, draw no thread that could be told from a blob. */
const SHORTEST_GAP = 1;

/** A way of the head with the melt that leaked on it, mm³. */
export type Way = { from: Point; to: Point; leaked: number };

/**
 * The thread that the ways since the last stroke have drawn; null where they crossed no open air that is seen.
 *
 * @param holds melt a millimetre, mm³, that stays on the nozzle
 */
export function threadOf(
  ways: readonly Way[],
  { z, layer }: { z: number; layer: number },
  surface: Surface,
  holds: number,
  random: Random,
): Thread | null {
  let [through, leaked] = [0, 0];
  let first: Point | null = null;
  let last: Point | null = null;
  for (const { from, to, leaked: melt } of ways) {
    const length = Math.hypot(to.x - from.x, to.y - from.y);
    const steps = Math.max(1, Math.ceil(length / (2 * CELL)));
    for (let n = 0; n < steps; n++) {
      const share = (n + 0.5) / steps;
      const x = from.x + (to.x - from.x) * share;
      const y = from.y + (to.y - from.y) * share;
      if (surface.holds(x, y, z, layer)) continue;
      through += length / steps;
      leaked += melt / steps;
      first ??= { x, y };
      last = { x, y };
    }
  }
  if (!first || !last || through < SHORTEST_GAP) return null;
  // Nobody sees what hangs inside a hollow part.
  if (!surface.inSight((first.x + last.x) / 2, (first.y + last.y) / 2, z, layer)) return null;
  const perMm = (leaked / through) * Math.exp(THREAD_SCATTER * normal(random));
  const over = Math.max(0, perMm - holds);
  const thick = Math.sqrt((4 * over) / Math.PI);
  return { from: first, to: last, z, length: through, thick };
}
