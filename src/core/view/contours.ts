/** Lines of equal goodness over the drawing of a grid, in the drawing's own millimetres. */

import { contours } from 'd3-contour';
import type { Plane } from '../reading/finding';
import { through } from './along';
import type { Cells, GridLine } from './cells';

/** Scores at which a line is drawn, of 4. */
const LEVELS = [1, 1.5, 2, 2.5, 3, 3.5, 3.8] as const;

type Point = [x: number, y: number];
/** A line at one score; pieces in mm from the left and lower edge of the picture. */
export type Contour = { score: number; pieces: Point[][] };

/** Where a value lies among the middles of lines. */
export const placing = (
  lines: readonly GridLine[],
  values: readonly number[],
): ((value: number) => number) =>
  through(lines.map(({ from, to }, i) => ({ value: values[i]!, place: (from + to) / 2 })));

/** The two ways from values to the drawing; `upIsA` where the first setting goes up. */
export type Placed = { x: (value: number) => number; y: (value: number) => number; upIsA: boolean };

/** @param valueOf value of a step of an axis, by its setting and number */
export function placed(
  { rows, columns, up }: Cells,
  first: Cells['up']['setting'],
  valueOf: (axis: 'up' | 'across', step: number) => number,
): Placed {
  return {
    x: placing(
      columns,
      columns.map(({ index }) => valueOf('across', index)),
    ),
    y: placing(
      rows,
      rows.map(({ index }) => valueOf('up', index)),
    ),
    upIsA: up.setting === first,
  };
}

/** Runs of a ring that lie within the plane: along its border a line says nothing. */
function within(ring: readonly Point[], wide: number, tall: number): Point[][] {
  const border = ([x, y]: Point) => x <= 0.5 || y <= 0.5 || x >= wide - 0.5 || y >= tall - 0.5;
  const runs: Point[][] = [];
  let run: Point[] = [];
  for (const [i, point] of ring.entries()) {
    const next = ring[i + 1];
    if (run.length === 0) run.push(point);
    if (!next) break;
    if (border(point) && border(next)) {
      if (run.length > 1) runs.push(run);
      run = [];
    } else run.push(next);
  }
  if (run.length > 1) runs.push(run);
  return runs;
}

export function contoursOf({ a, b, mean }: Plane, { x, y, upIsA }: Placed): Contour[] {
  const flat = mean.flat();
  const at = (values: readonly number[], place: number): number => {
    // d3 counts middles of its cells from 0.5.
    const i = Math.min(values.length - 1, Math.max(0, place - 0.5));
    const low = Math.min(values.length - 2, Math.floor(i));
    return values[low]! + (i - low) * (values[low + 1]! - values[low]!);
  };
  return contours()
    .size([b.length, a.length])
    .thresholds(LEVELS.map((score) => score / 4))(flat)
    .map(({ value, coordinates }) => ({
      score: value * 4,
      pieces: coordinates.flat().flatMap((ring) =>
        within(ring as Point[], b.length, a.length).map((run) =>
          run.map(([column, row]): Point => {
            const [of, over] = [at(a, row), at(b, column)];
            return upIsA ? [x(over), y(of)] : [x(of), y(over)];
          }),
        ),
      ),
    }))
    .filter(({ pieces }) => pieces.length > 0);
}
