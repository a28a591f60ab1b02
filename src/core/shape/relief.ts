/** Raised digits and letters on the front face of a tower, layer by layer. */

import { clamp } from '../numbers';
import { strokesOf, textWidth } from './digits';
import { rect, type Region } from './region';

/** Sizes of raised signs, mm: grid units across and up, height of a bar, how far they stand out. */
export type Relief = {
  stroke: number;
  bar: number;
  unitX: number;
  unitZ: number;
  /** Height of their foot over the rung's. */
  foot: number;
  relief: number;
};

/** Tallest digits, mm, for a bar of some height: larger reads no better. */
const tallest = (bar: number): number => Math.max(8, 6 * bar);

/** Height of a bar, mm: three layers can be told from the gap above them. */
export const barOf = (layer: number): number => Math.max(0.6, 3 * layer);

/** Signs that fit a rung of a height, in beads of a width: wide enough to be laid, low enough to fit. */
export function reliefFor(bead: number, layer: number, rung: number): Relief {
  const stroke = Math.max(1.2, 2.4 * bead);
  const bar = barOf(layer);
  const margin = Math.max(0.6, 2 * layer);
  const tall = Math.min(rung - 2 * margin, tallest(bar));
  return {
    stroke,
    bar,
    unitX: 1.15 * stroke,
    unitZ: (tall - bar) / 4,
    foot: (rung - tall) / 2,
    relief: Math.max(0.5, 0.9 * bead),
  };
}

/** Whether the signs are too low to be read in plastic. */
export const tooLow = ({ unitZ, bar }: Relief): boolean => unitZ < bar * 0.8;

/** Width, mm, that a text takes on a face, strokes and all. */
export const reliefWidth = (text: string, { unitX, stroke }: Relief): number =>
  textWidth(text) * unitX + stroke;

/**
 * Section of a text at a height over the rung's foot, standing out of the face y = 0 toward the viewer; its
 * undersides grow out at 45° so that they do not droop.
 *
 * @param middle where the middle of the text stands, mm
 */
export function reliefAt(
  text: string,
  z: number,
  layer: number,
  middle: number,
  { stroke, bar, unitX, unitZ, foot, relief }: Relief,
): Region[] {
  const start = middle - (textWidth(text) * unitX) / 2;
  return strokesOf(text).flatMap(([x0, y0, x1, y1]) => {
    const low = foot + Math.min(y0, y1) * unitZ;
    const high = foot + Math.max(y0, y1) * unitZ + bar;
    if (z < low || z > high) return [];
    const out = Math.min(relief, z - low + layer / 2);
    if (x0 !== x1 && y0 !== y1) {
      // A slanted stroke is a short bar that wanders as it climbs.
      const share = clamp((z - foot - bar / 2 - y0 * unitZ) / ((y1 - y0) * unitZ), 0, 1);
      const x = start + (x0 + (x1 - x0) * share) * unitX;
      return [rect(x - stroke / 2, -out, x + stroke / 2, 1)];
    }
    const a = start + Math.min(x0, x1) * unitX - stroke / 2;
    const b = start + Math.max(x0, x1) * unitX + stroke / 2;
    return [rect(a, -out, b, 1)];
  });
}
