/** The outline of a print at the sides of a band. */

import type { Box } from '../bench/bed';
import type { Sight } from './sight';
import { columnOf, rowOf } from './straighten';

/** The outline is looked for this far out and in, mm. */
const [OUT, IN] = [1.6, 6];

/** `steep` is by how much of plastic the picture changes there, a mm. */
export type Edge = { z: number; off: number; steep: number };

/**
 * Where the plastic ends at the sides of a band, from outside inward: mm from the place's edge, one a row; outward
 * is above 0. Rows where nothing is found are left out.
 */
export function outlineOf(
  { flat }: Sight,
  plastic: Float32Array,
  box: Box,
  side: 'left' | 'right',
): Edge[] {
  const { width, height, pxPerMm, bottom } = flat;
  const top = Math.round(rowOf(flat, box.maxY));
  const end = Math.round(rowOf(flat, box.minY));
  const edge = columnOf(flat, side === 'left' ? box.minX : box.maxX);
  const inward = side === 'left' ? 1 : -1;
  const found: Edge[] = [];
  for (let row = Math.max(0, top); row < Math.min(height, end); row++) {
    let before = NaN;
    for (let s = -OUT * pxPerMm; s <= IN * pxPerMm; s++) {
      const column = Math.round(edge + inward * s);
      if (column < 0 || column >= width) continue;
      const now = plastic[row * width + column]!;
      // What stays plastic for a third of a millimetre is no thread.
      if (before < 0.5 && now >= 0.5 && stays(plastic, row * width + column, inward, pxPerMm)) {
        const back = (now - 0.5) / (now - before);
        found.push({
          z: bottom + (height - row - 0.5) / pxPerMm,
          off: -inward * ((column + 0.5 - inward * back - edge) / pxPerMm),
          steep: (now - before) * pxPerMm,
        });
        break;
      }
      before = now;
    }
  }
  return found;
}

function stays(plastic: Float32Array, at: number, inward: number, pxPerMm: number): boolean {
  const reach = Math.max(1, Math.round(pxPerMm / 3));
  let sum = 0;
  for (let k = 0; k < reach; k++) sum += plastic[at + inward * k] ?? 0;
  return sum > 0.6 * reach;
}
