/** Strokes and travels of a range of layers as plain columns, ready to be drawn. */

import { beadWidth, roundArea } from '../deposit/bead';
import { MOVE, type Trace } from '../gcode/trace';
import type { LayerSpan } from './layers';
import { lengthOf } from './quantity';

/** Numbers of one stroke: both ends of its middle line (x y z x y z), width, height; mm. */
export const STROKE_NUMBERS = 8;

export type Beads = {
  /** First layer that is really in it: below it there was no room any more. */
  first: number;
  last: number;
  count: number;
  /** {@link STROKE_NUMBERS} numbers a stroke, in the order of printing. */
  strokes: Float32Array<ArrayBuffer>;
  /** Place on the colour scale, 0..1; −1 where the file says nothing. */
  share: Float32Array<ArrayBuffer>;
  /** Move of each stroke. */
  move: Uint32Array<ArrayBuffer>;
  /** x y z x y z of each travel, mm. */
  travels: Float32Array<ArrayBuffer>;
  travelMove: Uint32Array<ArrayBuffer>;
  /** x y z where filament is drawn back, mm. */
  retractions: Float32Array<ArrayBuffer>;
};

/** Strokes that are drawn at once; more would not fit into the memory of a small graphics unit. */
export const MOST_STROKES = 1_000_000;
/** Widths that a bead can have, mm; a prime blob counts as its widest. */
const [THINNEST, WIDEST] = [0.05, 3];

/** Width, mm, of the bead that a stroke lays in a layer of some thickness. */
export function strokeWidth(trace: Trace, i: number, strand: number, thickness: number): number {
  const length = lengthOf(trace, i);
  if (length === 0) return THINNEST;
  const width = beadWidth((trace.moves.e[i]! / length) * roundArea(strand), thickness);
  return Math.min(WIDEST, Math.max(THINNEST, width));
}

/** @param most strokes at most: when there are more, the lowest layers are left out */
export function beadsOf(
  trace: Trace,
  layers: readonly LayerSpan[],
  { first, last }: { first: number; last: number },
  strand: number,
  values: Float32Array,
  scale: { low: number; high: number } | null,
  most = MOST_STROKES,
): Beads {
  const { moves } = trace;
  const none = layers.length === 0;
  const begin = none ? 0 : roomFor(trace, layers, first, last, most);
  const from = none ? 0 : layers[begin]!.from;
  const to = none ? -1 : layers[last]!.to;
  let [strokeCount, travelCount, retractCount] = [0, 0, 0];
  for (let i = from; i <= to; i++) {
    const kind = moves.kind[i];
    if (kind === MOVE.extrude) strokeCount++;
    else if (kind === MOVE.travel) travelCount++;
    else if (kind === MOVE.retract) retractCount++;
  }
  const beads: Beads = {
    first: begin,
    last,
    count: strokeCount,
    strokes: new Float32Array(strokeCount * STROKE_NUMBERS),
    share: new Float32Array(strokeCount),
    move: new Uint32Array(strokeCount),
    travels: new Float32Array(travelCount * 6),
    travelMove: new Uint32Array(travelCount),
    retractions: new Float32Array(retractCount * 3),
  };
  const span = scale && scale.high > scale.low ? scale.high - scale.low : 0;
  let [stroke, travel, retract] = [0, 0, 0];
  for (let layer = begin; layer <= last && !none; layer++) {
    const { from: start, to: end, thickness } = layers[layer]!;
    for (let i = start; i <= end; i++) {
      const kind = moves.kind[i];
      const p = Math.max(0, i - 1);
      if (kind === MOVE.extrude) {
        const width = strokeWidth(trace, i, strand, thickness);
        const height = Math.min(thickness, width);
        const at = stroke * STROKE_NUMBERS;
        beads.strokes[at] = moves.x[p]!;
        beads.strokes[at + 1] = moves.y[p]!;
        beads.strokes[at + 2] = moves.z[p]! - height / 2;
        beads.strokes[at + 3] = moves.x[i]!;
        beads.strokes[at + 4] = moves.y[i]!;
        beads.strokes[at + 5] = moves.z[i]! - height / 2;
        beads.strokes[at + 6] = width;
        beads.strokes[at + 7] = height;
        const value = values[i]!;
        beads.share[stroke] =
          value === value && scale ? (span > 0 ? clamp01((value - scale.low) / span) : 0.5) : -1;
        beads.move[stroke++] = i;
      } else if (kind === MOVE.travel) {
        beads.travels.set(
          [moves.x[p]!, moves.y[p]!, moves.z[p]!, moves.x[i]!, moves.y[i]!, moves.z[i]!],
          travel * 6,
        );
        beads.travelMove[travel++] = i;
      } else if (kind === MOVE.retract) {
        beads.retractions.set([moves.x[i]!, moves.y[i]!, moves.z[i]!], retract++ * 3);
      }
    }
  }
  return beads;
}

/** How many of these ascending moves are not after `move`. */
export function movesUpTo(moves: Uint32Array, move: number): number {
  let low = 0;
  let high = moves.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (moves[middle]! <= move) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Middle lines closer in height than this, mm, are one layer. */
const SAME_LAYER = 1e-3;

/** Strokes of every nth layer, that much taller, so that walls stay closed: for while a view turns. */
export function coarser(
  { count, strokes, share, move }: Pick<Beads, 'count' | 'strokes' | 'share' | 'move'>,
  every: number,
): Pick<Beads, 'strokes' | 'share' | 'move'> {
  const kept: number[] = [];
  let layer = 0;
  for (let k = 0; k < count; k++) {
    const z = strokes[k * STROKE_NUMBERS + 5]!;
    if (k > 0 && Math.abs(z - strokes[(k - 1) * STROKE_NUMBERS + 5]!) > SAME_LAYER) layer++;
    if (layer % every === 0) kept.push(k);
  }
  const rows = new Float32Array(kept.length * STROKE_NUMBERS);
  kept.forEach((k, i) => {
    rows.set(strokes.subarray(k * STROKE_NUMBERS, (k + 1) * STROKE_NUMBERS), i * STROKE_NUMBERS);
    rows[i * STROKE_NUMBERS + 7]! *= every;
  });
  return {
    strokes: rows,
    share: Float32Array.from(kept, (k) => share[k]!),
    move: Uint32Array.from(kept, (k) => move[k]!),
  };
}

const clamp01 = (value: number): number => Math.min(1, Math.max(0, value));

/** First layer from which the strokes up to `last` fit. */
function roomFor(
  { moves }: Trace,
  layers: readonly LayerSpan[],
  first: number,
  last: number,
  most: number,
): number {
  let count = 0;
  for (let layer = last; layer >= first && layer >= 0; layer--) {
    const { from, to } = layers[layer]!;
    for (let i = from; i <= to; i++) if (moves.kind[i] === MOVE.extrude) count++;
    if (count > most && layer < last) return layer + 1;
  }
  return Math.max(0, first);
}
