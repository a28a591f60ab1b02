/** A form that lies on the bed, seen from above before it is laid: its walls and what is filled, layer over layer. */

import type { Box } from '../bench/bed';
import { beadPitch } from '../deposit/bead';
import type { Layer, Part } from '../deposit/layer';
import { boxOf, offset, type Region } from '../shape/region';
import { PLAIN, RIM, sheetFor } from './from-above';
import type { Picture } from './ladder-picture';
import { scaleColour, shareOf, type Rgb } from './scale';

/** Beads are darker at their rims; over the width of one that comes to this. */
const SHADE = 1 - RIM / 3;

/** @param valueOf value of a rung at a height, NaN for none */
export function drawDraftAbove(
  layers: readonly Layer[],
  frame: Box,
  bead: number,
  valueOf: (rung: number | null, z: number) => number,
  values: readonly number[],
  wantedPxPerMm: number,
): Picture {
  const picture = sheetFor(frame, wantedPxPerMm);
  const { height, pxPerMm } = picture;
  const pixels = new Uint32Array(picture.rgba.buffer);
  /** The same rims stand in many layers. */
  const hollows = new Map<Region, Region>();
  const hollowOf = ({ outline, walls }: Part, layer: number): Region => {
    const known = hollows.get(outline);
    if (known) return known;
    const pitch = beadPitch(bead, layer);
    const inside = walls === 0 ? outline : offset(outline, -(bead + (walls - 1) * pitch));
    hollows.set(outline, inside);
    return inside;
  };
  for (const { z, height: layer, parts } of layers)
    for (const part of parts) {
      const value = valueOf(part.rung, z);
      const colour = pixelOf(value === value ? scaleColour(shareOf(value, values)) : PLAIN);
      const paint = (spans: readonly number[], row: number) =>
        paintRow(picture, pixels, frame, spans, row, colour);
      const hollow = hollowOf(part, layer);
      const region = [...part.outline, ...part.solid];
      if (region.length === 0) continue;
      const { minY, maxY } = boxOf(region);
      const rows: Rows = {
        first: Math.max(0, Math.floor(height - (maxY - frame.minY) * pxPerMm - 1)),
        last: Math.min(height - 1, Math.ceil(height - (minY - frame.minY) * pxPerMm)),
        yOf: (row) => frame.minY + (height - row - 0.5) / pxPerMm,
        rowOf: (y) => height - 0.5 - (y - frame.minY) * pxPerMm,
      };
      spansOf(part.walls === 0 ? [] : part.outline, hollow, rows, paint);
      spansOf(part.solid, [], rows, paint);
    }
  return picture;
}

/** Rows of a picture that a region may reach, and the height of a row's middle, mm; rows are counted downward. */
type Rows = {
  first: number;
  last: number;
  yOf: (row: number) => number;
  rowOf: (y: number) => number;
};
type Crossing = { x: number; turn: 1 | -1; hole: boolean };

/**
 * Tells for every row where a region without a hole is crossed: x from left to right, in and out by turns. Rings may
 * overlap. Edges are gone through once, each over the rows that it crosses: most are short, and a sole with numbers has
 * many.
 */
function spansOf(
  region: Region,
  hole: Region,
  { first, last, yOf, rowOf }: Rows,
  tell: (spans: readonly number[], row: number) => void,
): void {
  const crossings: Crossing[][] = Array.from({ length: Math.max(0, last - first + 1) }, () => []);
  const cross = (ring: Region[number], of: boolean) => {
    for (let i = 0; i < ring.length; i++) {
      const a = ring[i]!;
      const b = ring[i + 1] ?? ring[0]!;
      if (a.y === b.y) continue;
      const turn = b.y > a.y ? 1 : -1;
      const from = Math.max(first, Math.floor(rowOf(Math.max(a.y, b.y))));
      const to = Math.min(last, Math.ceil(rowOf(Math.min(a.y, b.y))));
      for (let row = from; row <= to; row++) {
        const y = yOf(row);
        if (a.y > y === b.y > y) continue;
        const x = a.x + ((y - a.y) / (b.y - a.y)) * (b.x - a.x);
        crossings[row - first]!.push({ x, turn, hole: of });
      }
    }
  };
  for (const ring of region) cross(ring, false);
  for (const ring of hole) cross(ring, true);
  crossings.forEach((there, i) => {
    if (there.length > 0) tell(insideOf(there), first + i);
  });
}

function insideOf(crossings: Crossing[]): number[] {
  inOrder(crossings);
  const spans: number[] = [];
  let [inRegion, inHole, within] = [0, 0, false];
  for (const { x, turn, hole } of crossings) {
    if (hole) inHole += turn;
    else inRegion += turn;
    const now = inRegion !== 0 && inHole === 0;
    if (now !== within) spans.push(x);
    within = now;
  }
  return spans;
}

/** By insertion: a row of a part is crossed a few times only, and there are many rows. */
function inOrder(crossings: Crossing[]): void {
  for (let i = 1; i < crossings.length; i++) {
    const one = crossings[i]!;
    let at = i;
    for (; at > 0 && crossings[at - 1]!.x > one.x; at--) crossings[at] = crossings[at - 1]!;
    crossings[at] = one;
  }
}

function paintRow(
  { width, pxPerMm }: Picture,
  pixels: Uint32Array,
  frame: Box,
  spans: readonly number[],
  row: number,
  colour: number,
): void {
  for (let i = 0; i + 1 < spans.length; i += 2) {
    const from = Math.max(0, Math.round((spans[i]! - frame.minX) * pxPerMm));
    const to = Math.min(width, Math.round((spans[i + 1]! - frame.minX) * pxPerMm));
    if (to > from) pixels.fill(colour, row * width + from, row * width + to);
  }
}

/** Four bytes of a colour as one number, in this machine's order of bytes. */
function pixelOf([r, g, b]: Rgb): number {
  const bytes = new Uint8ClampedArray([r * SHADE, g * SHADE, b * SHADE, 255]);
  return new Uint32Array(bytes.buffer)[0]!;
}
