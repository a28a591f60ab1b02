/** Where the rungs of a print stand along the axis that every screen shares: height, or the way from front to rear. */

import { leadValues, rungLabel, rungMark, rungName } from '../plan/axes';
import type { Axis, Plan, PlannedRung, Rung } from '../plan/plan';
import { gridCells, type Cells } from './cells';
import { shareOf } from './scale';
import { stripsOf, type Strips } from './strips';

/**
 * A rung as screens show it: what it is called, with and without units, what stands beside it in plastic where that is
 * something else, and where its value lies among all, 0..1.
 */
export type Named<R extends PlannedRung = Rung> = R & {
  name: string;
  label: string;
  mark: string | null;
  share: number;
};

/** A print as screens line things up with it; `z` of a rung is its place along the axis, mm from the lower end. */
export type OnSharedAxis<R extends PlannedRung = Rung> = {
  view: 'front' | 'top';
  height: number;
  width: number;
  /** How many times larger upward than across it may be drawn. */
  stretch: number;
  rungs: Named<R>[];
  /** Of a grid: where its cells lie on the picture. */
  cells: Cells | null;
  /** Of a map: where the strips of its cells lie. */
  strips: Strips | null;
};

/**
 * How many times larger upward than across a print may be drawn, so that low rungs fill a window. What is seen from
 * above keeps its shape, and so does what is looked at for its angles.
 */
export const stretchOf = ({ view, axes }: Pick<Plan, 'view' | 'axes'>): number =>
  view === 'top' || axes.some(({ setting }) => setting === 'overhang') ? 1 : MOST_STRETCHED;
const MOST_STRETCHED = 2.2;

/** Air that a picture from the front has on both sides of what is laid, mm. */
export const AIR = 1;

/** Rungs with their names, and the colour of the scale that is theirs. */
export function named<R extends PlannedRung>(
  axes: readonly Axis[],
  rungs: readonly R[],
): Named<R>[] {
  const values = leadValues({ axes, rungs });
  return rungs.map((rung, i) => ({
    ...rung,
    name: rungName(axes, rung),
    label: rungLabel(axes, rung),
    mark: rungMark(axes, rung),
    share: shareOf(values[i]!, values),
  }));
}

type Standing<R> = Pick<Plan, 'view' | 'height' | 'width' | 'axes' | 'frame'> & { rungs: R[] };

export function onSharedAxis<R extends PlannedRung>({
  view,
  height,
  width,
  axes,
  rungs: all,
  frame,
}: Standing<R>): OnSharedAxis<R> {
  const rungs = named(axes, all);
  const stretch = stretchOf({ view, axes });
  if (view === 'front' || !frame) {
    const cells = frame ? gridCells(axes, all, view, { left: frame.minX - AIR, near: 0 }) : null;
    return { view, height, width, stretch, rungs, cells, strips: null };
  }
  const tall = frame.maxY - frame.minY;
  return {
    view,
    height: tall,
    // A column beside a print leaves a millimetre on both sides.
    width: frame.maxX - frame.minX - 2 * AIR,
    stretch,
    cells: gridCells(axes, all, view, { left: frame.minX, near: frame.minY }),
    strips: stripsOf(axes, all, frame),
    rungs: rungs.map((rung) => {
      const box = rung.boxes?.[0];
      if (!box) return rung;
      return { ...rung, z: { from: box.minY - frame.minY, to: box.maxY - frame.minY } };
    }),
  };
}
