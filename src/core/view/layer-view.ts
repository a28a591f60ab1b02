/** One layer of a file from above, with its own lines of text. */

import { MOVE, type Trace } from '../gcode/trace';

/** Moves of one layer: a run of moves at one printing height. */
export type LayerSpan = { z: number; from: number; to: number };

export type LayerView = {
  z: number;
  /** x0, y0, x1, y1 of each move, mm. */
  segments: Float32Array;
  /** 1 where plastic is laid. */
  laid: Uint8Array;
  firstLine: number;
  lines: string[];
};

/** Heights closer than this, mm, are one layer. */
const SAME_HEIGHT = 1e-3;

/** Layers in the order of printing, found from the moves that lay plastic. */
export function layersIn({ moves }: Trace): LayerSpan[] {
  const layers: LayerSpan[] = [];
  for (let i = 1; i < moves.count; i++) {
    if (moves.kind[i] !== MOVE.extrude) continue;
    const z = moves.z[i]!;
    const last = layers.at(-1);
    if (last && Math.abs(last.z - z) < SAME_HEIGHT) last.to = i;
    else layers.push({ z, from: last ? last.to + 1 : i, to: i });
  }
  return layers;
}

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
