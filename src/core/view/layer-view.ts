/** One layer of a file from above, with its own lines of text. */

import type { Trace } from '../gcode/trace';
import { beadsOf, type Beads } from './beads';
import type { LayerSpan } from './layers';
import type { Scale } from './opened';

export type LayerView = { z: number; beads: Beads; firstLine: number; lines: string[] };

/** @param values what strokes are coloured by, a number for every move */
export function layerView(
  trace: Trace,
  layers: readonly LayerSpan[],
  index: number,
  lines: readonly string[],
  { strand, values, scale }: { strand: number; values: Float32Array; scale: Scale | null },
): LayerView | null {
  const layer = layers[index];
  if (!layer) return null;
  const firstLine = trace.moves.line[layer.from]!;
  return {
    z: layer.z,
    beads: beadsOf(trace, layers, { first: index, last: index }, strand, values, scale),
    firstLine,
    lines: lines.slice(firstLine - 1, trace.moves.line[layer.to]),
  };
}
