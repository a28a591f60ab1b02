/** Where the cells of a map lie on its picture: strips of figures, wherever there was room on the bed. */

import { growBox, type Box } from '../bench/bed';
import { settingInfo } from '../bench/settings';
import { short } from '../numbers';
import type { Axis, PlannedRung } from '../plan/plan';

/** One figure of a cell: its rung, its value as people call it, and its place, mm from the left and lower edge. */
export type Figure = { rung: number; name: string; label: string; box: Box };
export type Strip = {
  index: number;
  /** What the cell is called, and what stands in plastic beside it. */
  name: string;
  mark: string;
  /** All of it with its signs; and what is its alone, beside its neighbours. */
  box: Box;
  own: Box;
  /** The lowest value first. */
  figures: Figure[];
};
export type Strips = { wide: number; tall: number; cells: Strip[] };

/** Signs and arrows of a cell reach this far around its figures, mm; those of values further, at the right. */
const [SIGNS, VALUES, RAIL] = [8, 11, 3];
/** Around its figures nothing of another cell is this near, mm. */
const OWN = 2;

/** @returns null for a print whose rungs are no figures of named cells */
export function stripsOf(
  axes: readonly Axis[],
  rungs: readonly PlannedRung[],
  frame: Box | undefined,
): Strips | null {
  const [values, cells] = axes;
  if (!frame || !values?.setting || cells?.setting !== null) return null;
  if (rungs.some(({ boxes }) => !boxes)) return null;
  const placed = ({ minX, minY, maxX, maxY }: Box): Box => ({
    minX: minX - frame.minX,
    maxX: maxX - frame.minX,
    minY: minY - frame.minY,
    maxY: maxY - frame.minY,
  });
  const wide = frame.maxX - frame.minX;
  const tall = frame.maxY - frame.minY;
  return {
    wide,
    tall,
    cells: cells.steps.map(({ label, mark = label }, index): Strip => {
      const of = rungs.filter(({ at }) => at[1] === index);
      const figures = of.map((rung): Figure => {
        const value = rung.set[values.setting!]!;
        return {
          rung: rung.index,
          name: `${short(value, 4)} ${values.unit}`,
          label: short(value, 4),
          box: placed(rung.boxes![0]!),
        };
      });
      const boxes = figures.map(({ box }) => box);
      const bare: Box = {
        minX: Math.min(...boxes.map((box) => box.minX)),
        minY: Math.min(...boxes.map((box) => box.minY)),
        maxX: Math.max(...boxes.map((box) => box.maxX)),
        maxY: Math.max(...boxes.map((box) => box.maxY)),
      };
      const { minX, minY, maxX, maxY } = growBox(bare, SIGNS);
      return {
        index,
        name: label,
        mark,
        box: {
          minX: Math.max(0, minX + SIGNS - RAIL),
          minY: Math.max(0, minY),
          maxX: Math.min(wide, maxX - SIGNS + VALUES),
          maxY: Math.min(tall, maxY),
        },
        own: growBox(bare, OWN),
        figures,
      };
    }),
  };
}

/** What stands beside a row or under a column of cells, and the middle of its figures, mm from the lower left corner. */
export type Common = { said: string; at: number };

/** What all cells of a row, or of a column, have in common, in full; nothing is said where that is not one thing. */
export function commonOf({ cells }: Strips): { rows: Common[]; columns: Common[] } {
  const alike = (edge: 'minX' | 'minY', other: 'maxX' | 'maxY'): Common[] => {
    const edgeOf = ({ figures }: Strip) => Math.round(figures[0]!.box[edge]);
    return [...new Set(cells.map(edgeOf))].flatMap((place) => {
      const line = cells.filter((cell) => edgeOf(cell) === place);
      const shared = line
        .map(({ name }) => name.split(', '))
        .reduce((one, next) => one.filter((part) => next.includes(part)));
      const own = line.map(({ own: box }) => (box[edge] + box[other]) / 2);
      const at = own.reduce((sum, middle) => sum + middle, 0) / own.length;
      return line.length > 1 && shared.length === 1 ? [{ said: shared[0]!, at }] : [];
    });
  };
  return { rows: alike('minY', 'maxY'), columns: alike('minX', 'maxX') };
}

/** Rows of cells as if they were rungs, the front one first: what grows one after the other. */
export function stripsAsRungs<R extends PlannedRung & { line: number; share: number }>(
  { cells }: Strips,
  rungs: readonly R[],
): (R & { name: string; label: string })[] {
  const rows = new Map<number, Strip[]>();
  for (const cell of cells) {
    const near = Math.round(cell.figures[0]!.box.minY);
    rows.set(near, [...(rows.get(near) ?? []), cell]);
  }
  return [...rows.entries()]
    .sort(([a], [b]) => a - b)
    .map(([, row], i) => {
      const figures = row.flatMap((cell) => cell.figures);
      const of = figures.map(({ rung }) => rungs[rung]!);
      const name = `${short(of[0]!.set.wallSpeed ?? 0)} ${settingInfo('wallSpeed').unit}`;
      return {
        ...of[0]!,
        index: i,
        name,
        label: name,
        share: rows.size > 1 ? i / (rows.size - 1) : 0.5,
        line: Math.min(...of.map(({ line }) => line)),
        z: {
          from: Math.min(...figures.map(({ box }) => box.minY)),
          to: Math.max(...figures.map(({ box }) => box.maxY)),
        },
      };
    });
}
