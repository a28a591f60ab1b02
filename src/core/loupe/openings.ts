/** Openings of a print: places where one looks through it at the ground, with plastic to the left and right. */

import type { Box } from '../bench/bed';
import type { Sight } from './sight';
import { columnOf, rowOf } from './straighten';

/** Openings narrower or lower than this, mm, are cracks. */
const [NARROWEST, LOWEST] = [1.5, 0.6];
/** Plastic thinner than this, mm, is a thread and closes no opening. */
const THINNEST = 0.5;
/** Pieces that an opening's cells have, mm. */
const CELL = 0.25;

/** Parts of one row of cells that are open, from and to, in cells. */
type Run = { from: number; to: number };

/** A grid of cells over a place: whether each is open, threads left aside. */
export type Openings = {
  columns: number;
  rows: number;
  /** Side of a cell, mm. */
  cell: number;
  box: Box;
  /** 1 where one looks through; row 0 is the lowest. */
  open: Uint8Array;
};

/**
 * Looks for openings in a place. Threads are so thin that the middle of a cell's neighbourhood still shows the
 * ground; plastic fills it.
 */
export function openingsIn(sight: Sight, box: Box): Openings | null {
  const { flat, plastic } = sight;
  if (!plastic) return null;
  const columns = Math.floor((box.maxX - box.minX) / CELL);
  const rows = Math.floor((box.maxY - box.minY) / CELL);
  if (columns < 3 || rows < 3) return null;
  const share = new Float32Array(columns * rows);
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      const x0 = Math.round(columnOf(flat, box.minX + c * CELL));
      const x1 = Math.max(x0 + 1, Math.round(columnOf(flat, box.minX + (c + 1) * CELL)));
      const y0 = Math.round(rowOf(flat, box.minY + (r + 1) * CELL));
      const y1 = Math.max(y0 + 1, Math.round(rowOf(flat, box.minY + r * CELL)));
      let [sum, n] = [0, 0];
      for (let y = y0; y < y1; y++)
        for (let x = x0; x < x1; x++, n++) sum += plastic[y * flat.width + x]! > 0.5 ? 1 : 0;
      share[r * columns + c] = sum / n;
    }
  // Plastic is what fills a neighbourhood as wide as a bead; threads fill a row of cells at most.
  const reach = Math.max(1, Math.round(THINNEST / CELL / 2));
  const solid = new Uint8Array(columns * rows);
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      let [sum, n] = [0, 0];
      for (let y = Math.max(0, r - reach); y <= Math.min(rows - 1, r + reach); y++)
        for (let x = Math.max(0, c - reach); x <= Math.min(columns - 1, c + reach); x++, n++)
          sum += share[y * columns + x]!;
      solid[r * columns + c] = sum / n > 0.55 ? 1 : 0;
    }
  const open = new Uint8Array(columns * rows);
  for (let r = 0; r < rows; r++)
    for (const { from, to } of runsOf(solid, r, columns)) {
      // A hand's breadth of ground beside the print is no opening: there is plastic on both sides.
      if (from === 0 || to === columns) continue;
      if ((to - from) * CELL < NARROWEST) continue;
      for (let c = from; c < to; c++) open[r * columns + c] = 1;
    }
  // What is open for less than the lowest height is a crack.
  const least = Math.ceil(LOWEST / CELL);
  for (let c = 0; c < columns; c++)
    for (let r = 0; r < rows;) {
      if (!open[r * columns + c]) {
        r++;
        continue;
      }
      let end = r;
      while (end < rows && open[end * columns + c]) end++;
      if (end - r < least) for (let k = r; k < end; k++) open[k * columns + c] = 0;
      r = end;
    }
  return { columns, rows, cell: CELL, box, open };
}

function runsOf(solid: Uint8Array, row: number, columns: number): Run[] {
  const runs: Run[] = [];
  for (let c = 0; c < columns;) {
    if (solid[row * columns + c]) {
      c++;
      continue;
    }
    const from = c;
    while (c < columns && !solid[row * columns + c]) c++;
    runs.push({ from, to: c });
  }
  return runs;
}

/** Area that is open, mm². */
export const openArea = ({ open, cell }: Openings): number =>
  open.reduce((sum, one) => sum + one, 0) * cell * cell;
