/** Where the cells of a grid lie on its picture: rows over each other, columns beside each other. */

import type { Box } from '../bench/bed';
import { leadValues } from '../plan/axes';
import type { Axis, PlannedRung } from '../plan/plan';
import { shareOf } from './scale';

/** A row or column, by the step of its axis. */
export type GridLine = {
  index: number;
  /** What it is called, with and without the unit. */
  name: string;
  label: string;
  /** mm from the lower or left edge of the picture. */
  from: number;
  to: number;
  /** Place among all, 0..1, as it is coloured; 0 for columns, which have one colour. */
  share: number;
};

export type Cells = {
  /** The lowest first. */
  rows: GridLine[];
  /** The leftmost first. */
  columns: GridLine[];
  /** What goes up and across, as titles with units. */
  up: Pick<Axis, 'setting' | 'title' | 'unit'>;
  across: Pick<Axis, 'setting' | 'title' | 'unit'>;
  /** The rung in a row and column. */
  rung: number[][];
};

/** Left and lower edge of the picture on the bed; from the front, its foot is the bed itself. */
export type Corner = { left: number; near: number };

/** @returns null for a print that is no grid, or does not say where its columns stand */
export function gridCells(
  axes: readonly Axis[],
  rungs: readonly PlannedRung[],
  view: 'front' | 'top',
  { left, near }: Corner,
): Cells | null {
  const [acrossAt, upAt] = [
    axes.findIndex(({ along }) => along === 'x'),
    axes.findIndex(({ along }) => along !== 'x'),
  ];
  if (axes.length === 1 && acrossAt === 0)
    return besideEachOther(axes[0]!, rungs, view, { left, near });
  if (axes.length !== 2 || acrossAt === -1 || upAt === -1) return null;
  // Cells that are named lie wherever there is room.
  if (axes.some(({ setting }) => setting === null)) return null;
  if (rungs.some(({ boxes }) => !boxes)) return null;
  const [up, across] = [axes[upAt]!, axes[acrossAt]!];
  const values = leadValues({ axes, rungs });
  const boxOf = (rung: PlannedRung): Box => rung.boxes![0]!;
  const height = (rung: PlannedRung): [number, number] =>
    view === 'front'
      ? [rung.z.from, rung.z.to]
      : [boxOf(rung).minY - near, boxOf(rung).maxY - near];
  const width = (rung: PlannedRung): [number, number] => [
    boxOf(rung).minX - left,
    boxOf(rung).maxX - left,
  ];
  const lines = (
    at: number,
    axis: Axis,
    ends: (rung: PlannedRung) => [number, number],
  ): GridLine[] =>
    axis.steps
      .map(({ label }, index): GridLine => {
        const of = rungs.filter((rung) => rung.at[at] === index);
        return {
          index,
          name: `${label} ${axis.unit}`.trim(),
          label,
          from: Math.min(...of.map((rung) => ends(rung)[0])),
          to: Math.max(...of.map((rung) => ends(rung)[1])),
          share: at === 0 ? shareOf(values[rungs.indexOf(of[0]!)]!, values) : 0,
        };
      })
      .sort((a, b) => a.from - b.from);
  const rows = lines(upAt, up, height);
  const columns = lines(acrossAt, across, width);
  return {
    rows,
    columns,
    up: titleOf(up),
    across: titleOf(across),
    rung: rows.map((row) =>
      columns.map((column) =>
        rungs.findIndex(({ at }) => at[upAt] === row.index && at[acrossAt] === column.index),
      ),
    ),
  };
}

/** A grid of one row: what stands side by side alone. */
function besideEachOther(
  axis: Axis,
  rungs: readonly PlannedRung[],
  view: 'front' | 'top',
  { left, near }: Corner,
): Cells | null {
  const boxes = rungs.flatMap(({ boxes: of }) => of?.[0] ?? []);
  if (boxes.length < rungs.length) return null;
  const [from, to] =
    view === 'front'
      ? [Math.min(...rungs.map(({ z }) => z.from)), Math.max(...rungs.map(({ z }) => z.to))]
      : [
          Math.min(...boxes.map(({ minY }) => minY)) - near,
          Math.max(...boxes.map(({ maxY }) => maxY)) - near,
        ];
  const columns = axis.steps.map(({ label }, index): GridLine => {
    const at = rungs.findIndex((rung) => rung.at[0] === index);
    const { minX, maxX } = boxes[at]!;
    const name = `${label} ${axis.unit}`.trim();
    return { index, name, label, from: minX - left, to: maxX - left, share: 0 };
  });
  return {
    rows: [{ index: 0, name: '', label: '', from, to, share: 0.5 }],
    columns,
    up: { setting: null, title: '', unit: '' },
    across: titleOf(axis),
    rung: [columns.map(({ index }) => rungs.findIndex((rung) => rung.at[0] === index))],
  };
}

const titleOf = ({ setting, title, unit }: Axis) => ({ setting, title, unit });

/** Row and column of a rung. */
export function placeOf({ rung }: Cells, index: number): { row: number; column: number } {
  const row = Math.max(
    0,
    rung.findIndex((of) => of.includes(index)),
  );
  return { row, column: Math.max(0, rung[row]!.indexOf(index)) };
}

/** Rows of a grid as if they were its rungs: each begins where the first of its cells takes effect. */
export const rowsAsRungs = <R extends { index: number; line: number }>(
  { rows, rung }: Cells,
  rungs: readonly R[],
): (R & Pick<GridLine, 'name' | 'label' | 'share'> & { z: { from: number; to: number } })[] =>
  rows.map(({ name, label, share, from, to }, i) => {
    const of = rung[i]!.map((index) => rungs[index]!);
    const line = Math.min(...of.map((one) => one.line));
    return { ...of[0]!, index: i, name, label, share, line, z: { from, to } };
  });
