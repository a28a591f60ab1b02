/** A sliced file that is read once for several wishes. */

import { Lines } from '../gcode/lines';
import type { Trace } from '../gcode/trace';
import { layersIn, type LayerSpan } from '../view/layers';
import { strataOf, type Strata } from './strata';

export type Source = {
  name: string;
  bytes: Uint8Array;
  lines: Lines;
  trace: Trace;
  /** In file order, and by rising height. */
  layers: LayerSpan[];
  strata: Strata;
};

export function sourceOf(name: string, bytes: Uint8Array, trace: Trace): Source {
  const layers = layersIn(trace);
  return { name, bytes, lines: new Lines(bytes), trace, layers, strata: strataOf(trace, layers) };
}
