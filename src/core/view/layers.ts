/** Layers of any file, found from the moves that lay plastic; comments are not asked. */

import { firstStroke } from '../gcode/print-start';
import { MOVE, type Trace } from '../gcode/trace';
import { spiralsIn } from './spirals';

/** One layer: a run of moves, and the height of plastic that they lay. mm. */
export type LayerSpan = {
  /** Height of the nozzle; of a spiral turn, its highest. */
  z: number;
  thickness: number;
  /** First and last move. */
  from: number;
  to: number;
};

/** Heights closer than this, mm, are one layer. */
const SAME_HEIGHT = 1e-3;
/** Share of a turn by which its end may be missed: heights are written with three decimals. */
const TURN_SLACK = 0.02;
/** A step up by more than this, mm, is a new part of the print and not a thick layer. */
const THICKEST = 2;
/** A file that changes height at every move is no layered print; what comes after this many is one layer. */
export const MOST_LAYERS = 50_000;

/** Layers in the order of printing. A turn of a spiral is one layer; a purge beside the print is none. */
export function layersIn({ moves }: Pick<Trace, 'moves'>): LayerSpan[] {
  const layers: LayerSpan[] = [];
  const seen = new Map<number, number>();
  const spirals = spiralsIn({ moves });
  const begin = Math.max(1, firstStroke({ moves }));
  let [base, spiral, turn] = [0, 0, -1];
  for (let i = begin; i < moves.count; i++) {
    if (moves.kind[i] !== MOVE.extrude) continue;
    const z = moves.z[i]!;
    const last = layers.at(-1);
    while (spiral < spirals.length && spirals[spiral]!.to < i) [spiral, turn] = [spiral + 1, -1];
    const round = spirals[spiral];
    if (round && i >= round.from && layers.length < MOST_LAYERS) {
      const now = Math.max(0, Math.ceil((z - round.low) / round.pitch - TURN_SLACK) - 1);
      if (last && now === turn) {
        last.to = i;
        last.z = Math.max(last.z, z);
      } else {
        layers.push({ z, thickness: round.pitch, from: last ? last.to + 1 : i, to: i });
        turn = now;
        base = z - round.pitch;
      }
      continue;
    }
    const climbs = z > moves.z[i - 1]! + SAME_HEIGHT / 10;
    const within = last && z <= base + last.thickness + SAME_HEIGHT && z > base;
    if (last && (Math.abs(last.z - z) < SAME_HEIGHT || (climbs && within))) {
      last.to = i;
      last.z = Math.max(last.z, z);
      continue;
    }
    if (last && layers.length === MOST_LAYERS) {
      last.to = i;
      continue;
    }
    const below = last?.z ?? 0;
    const known = seen.get(Math.round(z / SAME_HEIGHT));
    // A spiral climbs a little with each move; its turn is as thick as the layer below.
    const thickness =
      known ?? (climbs && last ? last.thickness : thicknessOf(z, below, last?.thickness));
    base = climbs && last ? below : z - thickness;
    if (!climbs) seen.set(Math.round(z / SAME_HEIGHT), thickness);
    layers.push({ z, thickness, from: last ? last.to + 1 : i, to: i });
  }
  return layers;
}

function thicknessOf(z: number, below: number, before: number | undefined): number {
  const rise = z - below;
  if (rise > SAME_HEIGHT && rise <= THICKEST) return rise;
  // Down again, to the next of several objects: its first layer lies on the bed.
  if (z > 0 && z <= (before ?? THICKEST) * 2) return z;
  return before ?? THICKEST / 10;
}

/** Index of the layer that holds a move; the next one for a travel between, −1 when there is none. */
export function layerOf(layers: readonly LayerSpan[], move: number): number {
  let low = 0;
  let high = layers.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (layers[middle]!.to < move) low = middle + 1;
    else high = middle;
  }
  return low < layers.length ? low : layers.length - 1;
}
