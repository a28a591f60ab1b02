/** What each height of a sliced print is like: a few numbers a layer, taken from its strokes alone. */

import { MOVE, type Trace } from '../gcode/trace';
import { layersIn, type LayerSpan } from '../view/layers';

/** What is told of a layer. Lengths mm, areas mm². */
export const TRAITS = [
  'length', // of all strokes
  'strokes', // separate ones: runs without a travel between
  'plastic', // filament, mm, a mm of layer height
  'left',
  'right',
  'front',
  'rear',
  'middleX', // of what is laid, by length
  'middleY',
] as const;
export type Trait = (typeof TRAITS)[number];

/** By how much each trait is off before it is another one. Lengths mm. */
export const LEAST: Record<string, number> = {
  length: 1.2,
  strokes: 0.9,
  plastic: 0.6,
  left: 0.08,
  right: 0.08,
  front: 0.08,
  rear: 0.08,
  middleX: 0.15,
  middleY: 0.15,
};

/** What infill changes from layer to layer. */
export const WITHIN: ReadonlySet<string> = new Set([
  'length',
  'strokes',
  'plastic',
  'middleX',
  'middleY',
]);

/** Layers by rising height; what is printed at one height, in however many places, is one. */
export type Strata = {
  /** Height of the nozzle, mm. */
  top: Float64Array;
  thickness: Float64Array;
  /** Line of the first stroke, in file order. */
  line: Uint32Array;
  traits: Record<Trait, Float64Array>;
};

/** Heights are written with three decimals, mm. */
const PER_MM = 1000;

type Layer = Record<Trait, number> & { top: number; thickness: number; line: number };

export function strataOf(trace: Trace, layers: readonly LayerSpan[] = layersIn(trace)): Strata {
  const { moves } = trace;
  const byHeight = new Map<number, Layer>();
  for (const { z, thickness, from, to } of layers) {
    const key = Math.round(z * PER_MM);
    const layer = byHeight.get(key) ?? {
      top: z,
      thickness,
      line: 0,
      length: 0,
      strokes: 0,
      plastic: 0,
      left: Infinity,
      right: -Infinity,
      front: Infinity,
      rear: -Infinity,
      middleX: 0,
      middleY: 0,
    };
    byHeight.set(key, layer);
    let joined = false;
    for (let i = Math.max(1, from); i <= to; i++) {
      if (moves.kind[i] !== MOVE.extrude) {
        joined &&= moves.kind[i] !== MOVE.travel;
        continue;
      }
      const [ax, ay, bx, by] = [moves.x[i - 1]!, moves.y[i - 1]!, moves.x[i]!, moves.y[i]!];
      const length = Math.hypot(bx - ax, by - ay);
      if (layer.line === 0) layer.line = moves.line[i]!;
      if (!joined) layer.strokes++;
      joined = true;
      layer.length += length;
      layer.plastic += moves.e[i]!;
      layer.middleX += ((ax + bx) / 2) * length;
      layer.middleY += ((ay + by) / 2) * length;
      layer.left = Math.min(layer.left, ax, bx);
      layer.right = Math.max(layer.right, ax, bx);
      layer.front = Math.min(layer.front, ay, by);
      layer.rear = Math.max(layer.rear, ay, by);
    }
  }
  const rows = [...byHeight.values()]
    .filter(({ length }) => length > 0)
    .sort((a, b) => a.top - b.top);
  for (const layer of rows) {
    layer.middleX /= layer.length;
    layer.middleY /= layer.length;
    layer.plastic /= layer.thickness;
  }
  return {
    top: Float64Array.from(rows, ({ top }) => top),
    thickness: Float64Array.from(rows, ({ thickness }) => thickness),
    line: Uint32Array.from(rows, ({ line }) => line),
    traits: Object.fromEntries(
      TRAITS.map((name) => [name, Float64Array.from(rows, (layer) => layer[name])]),
    ) as Strata['traits'],
  };
}
