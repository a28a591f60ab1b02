/** Which rung a stroke belongs to. */

import type { Box } from '../bench/bed';
import type { Trace } from './trace';

/** Heights and places are written with three decimals, mm. */
const SLACK = 1e-3;

export type RungPlace = { z: { from: number; to: number }; boxes?: readonly Box[] };

/**
 * Makes a function move → index of the rung that it prints, -1 for none. A stroke belongs where its middle is.
 * Quick for moves in file order.
 */
export function rungFinder(rungs: readonly RungPlace[], { x, y, z }: Trace['moves']) {
  const holds = (rung: RungPlace | undefined, i: number): boolean => {
    if (!rung || z[i]! <= rung.z.from + SLACK || z[i]! > rung.z.to + SLACK) return false;
    if (!rung.boxes) return true;
    const from = Math.max(0, i - 1);
    const [mx, my] = [(x[from]! + x[i]!) / 2, (y[from]! + y[i]!) / 2];
    return rung.boxes.some(
      ({ minX, minY, maxX, maxY }) =>
        mx >= minX - SLACK && mx <= maxX + SLACK && my >= minY - SLACK && my <= maxY + SLACK,
    );
  };
  let last = 0;
  return (i: number): number => {
    if (holds(rungs[last], i)) return last;
    const found = rungs.findIndex((rung) => holds(rung, i));
    if (found !== -1) last = found;
    return found;
  };
}
