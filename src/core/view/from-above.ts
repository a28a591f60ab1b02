/** A flat pattern from above, drawn from the moves that are really in its file: beads of their true width. */

import type { Box } from '../bench/bed';
import { beadWidth, roundArea } from '../deposit/bead';
import { MOVE, type Trace } from '../gcode/trace';
import type { Picture } from './ladder-picture';
import { scaleColour, shareOf, type Rgb } from './scale';

/** Largest picture, pixels. */
const MOST_PIXELS = 1_200_000;
/** What belongs to no rung, in the colour of wood. */
export const PLAIN: Rgb = [176, 158, 122];
/** The rim of a bead is this much darker than its middle, so that single beads are seen. */
export const RIM = 0.28;

/** An empty picture of a frame on the bed. */
export function sheetFor(frame: Box, wantedPxPerMm: number): Picture {
  const wide = frame.maxX - frame.minX;
  const tall = frame.maxY - frame.minY;
  const pxPerMm = Math.min(wantedPxPerMm, Math.sqrt(MOST_PIXELS / Math.max(1, wide * tall)));
  const width = Math.max(1, Math.ceil(wide * pxPerMm));
  const height = Math.max(1, Math.ceil(tall * pxPerMm));
  return { width, height, pxPerMm, rgba: new Uint8ClampedArray(width * height * 4) };
}

/**
 * @param strand  filament diameter, mm
 * @param layer   layer height, mm
 * @param valueOf value of the rung that a move prints, NaN for none
 */
export function drawFromAbove(
  trace: Trace,
  frame: Box,
  strand: number,
  layer: number,
  valueOf: (move: number) => number,
  values: readonly number[],
  wantedPxPerMm: number,
): Picture {
  const { width, height, pxPerMm, rgba } = sheetFor(frame, wantedPxPerMm);
  const { moves } = trace;
  const section = roundArea(strand);
  for (let i = 1; i < moves.count; i++) {
    if (moves.kind[i] !== MOVE.extrude) continue;
    const [ax, ay] = [moves.x[i - 1]!, moves.y[i - 1]!];
    const [dx, dy] = [moves.x[i]! - ax, moves.y[i]! - ay];
    const length = Math.sqrt(dx * dx + dy * dy);
    if (length === 0) continue;
    const half = beadWidth((moves.e[i]! * section) / length, layer) / 2;
    const value = valueOf(i);
    const colour = value === value ? scaleColour(shareOf(value, values)) : PLAIN;
    const column = (x: number) => (x - frame.minX) * pxPerMm;
    const row = (y: number) => height - (y - frame.minY) * pxPerMm;
    const left = Math.max(0, Math.floor(column(Math.min(ax, ax + dx) - half)));
    const right = Math.min(width - 1, Math.ceil(column(Math.max(ax, ax + dx) + half)));
    const top = Math.max(0, Math.floor(row(Math.max(ay, ay + dy) + half)));
    const bottom = Math.min(height - 1, Math.ceil(row(Math.min(ay, ay + dy) - half)));
    for (let py = top; py <= bottom; py++) {
      const y = frame.minY + (height - py - 0.5) / pxPerMm;
      // A slanted stroke crosses a row in a short span; its box is much wider.
      const middle = dy === 0 ? ax : ax + ((y - ay) * dx) / dy;
      const reach = dy === 0 ? Infinity : half * (length / Math.abs(dy));
      const first = Math.max(left, Math.floor(column(middle - reach)));
      const last = Math.min(right, Math.ceil(column(middle + reach)));
      for (let px = first; px <= last; px++) {
        const x = frame.minX + (px + 0.5) / pxPerMm;
        const along = ((x - ax) * dx + (y - ay) * dy) / (length * length);
        if (along < 0 || along > 1) continue;
        const off = Math.abs((x - ax) * dy - (y - ay) * dx) / length;
        if (off > half) continue;
        const shade = 1 - RIM * (off / half) ** 2;
        const at = (py * width + px) * 4;
        rgba[at] = colour[0] * shade;
        rgba[at + 1] = colour[1] * shade;
        rgba[at + 2] = colour[2] * shade;
        rgba[at + 3] = 255;
      }
    }
  }
  return { width, height, pxPerMm, rgba };
}
