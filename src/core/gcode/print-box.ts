/** Where a file lays plastic. */

import type { Box } from '../bench/bed';
import { MOVE, type Trace } from './trace';

/** Box around all strokes above `over` mm, or null when there are none. */
export function printBox({ moves }: Trace, over = 0): Box | null {
  const box: Box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  for (let i = 1; i < moves.count; i++) {
    if (moves.kind[i] !== MOVE.extrude || moves.z[i]! <= over) continue;
    box.minX = Math.min(box.minX, moves.x[i]!, moves.x[i - 1]!);
    box.maxX = Math.max(box.maxX, moves.x[i]!, moves.x[i - 1]!);
    box.minY = Math.min(box.minY, moves.y[i]!, moves.y[i - 1]!);
    box.maxY = Math.max(box.maxY, moves.y[i]!, moves.y[i - 1]!);
  }
  return box.maxX > -Infinity ? box : null;
}
