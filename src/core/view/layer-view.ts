/** One layer of a file from above, with its own lines of text. */

import { MOVE, type Trace } from '../gcode/trace';
import type { LayerSpan } from './layers';

export type LayerView = {
  z: number;
  /** x0, y0, x1, y1 of each move, mm. */
  segments: Float32Array;
  /** 1 where plastic is laid. */
  laid: Uint8Array;
  firstLine: number;
  lines: string[];
};

export function layerView(
  { moves }: Trace,
  { z, from, to }: LayerSpan,
  lines: readonly string[],
): LayerView {
  const count = to - from + 1;
  const segments = new Float32Array(count * 4);
  const laid = new Uint8Array(count);
  for (let k = 0; k < count; k++) {
    const i = from + k;
    segments.set([moves.x[i - 1]!, moves.y[i - 1]!, moves.x[i]!, moves.y[i]!], k * 4);
    laid[k] = moves.kind[i] === MOVE.extrude ? 1 : 0;
  }
  const firstLine = moves.line[from]!;
  return { z, segments, laid, firstLine, lines: lines.slice(firstLine - 1, moves.line[to]!) };
}
