/** Where patches lie on the bed: a column in the middle, and blocks toward the corners and sides. */

import { bedBox, growBox, type Box } from '../../bench/bed';
import type { Bed } from '../../bench/machine';

export const PLACES = ['the middle', 'the middle and four corners', 'the whole bed'];

/** Free bed around everything that is laid, mm. */
const RIM = 12;
/** Between two patches, mm. */
export const PATCH_GAP = 3;

/** A group of patches: its middle about that of the bed, mm, and how many stand side by side. */
export type Group = { x: number; y: number; columns: number };
/** Room of one patch with its label, mm. */
export type Cell = { wide: number; tall: number };

/** Size of a group of `count` patches, mm. */
function sizeOf({ columns }: Pick<Group, 'columns'>, { wide, tall }: Cell, count: number): Cell {
  const rows = Math.ceil(count / columns);
  return {
    wide: columns * (wide + PATCH_GAP) - PATCH_GAP,
    tall: rows * (tall + PATCH_GAP) - PATCH_GAP,
  };
}

/** Where the patch `index` of a group begins, mm: front left. */
export function cornerOf(group: Group, cell: Cell, count: number, index: number) {
  const { wide, tall } = sizeOf(group, cell, count);
  const [column, row] = [index % group.columns, Math.floor(index / group.columns)];
  return {
    x: group.x - wide / 2 + column * (cell.wide + PATCH_GAP),
    y: group.y - tall / 2 + row * (cell.tall + PATCH_GAP),
  };
}

export const boxOfGroup = (group: Group, cell: Cell, count: number): Box => {
  const { wide, tall } = sizeOf(group, cell, count);
  return {
    minX: group.x - wide / 2,
    maxX: group.x + wide / 2,
    minY: group.y - tall / 2,
    maxY: group.y + tall / 2,
  };
};

/**
 * Groups of `count` patches, the middle first. Those outside stand as far out as they fit, in as few columns as
 * keep them apart.
 *
 * @returns whether they do keep apart, and the groups
 */
export function groupsOf(
  places: number,
  bed: Bed,
  cell: Cell,
  count: number,
): { apart: boolean; groups: Group[] } {
  const middle = { x: 0, y: 0, columns: 1 };
  if (places === 0) return { apart: true, groups: [middle] };
  const tried = Array.from({ length: count }, (_, i) => {
    const outer = around(places, bed, sizeOf({ columns: i + 1 }, cell, count));
    const groups = [middle, ...outer.map((at) => ({ ...at, columns: i + 1 }))];
    const boxes = groups.map((group) => boxOfGroup(group, cell, count));
    return { apart: keepApart(boxes), groups };
  });
  return tried.find(({ apart }) => apart) ?? tried[0]!;
}

/** Middles of the outer groups. Within a round bed they keep to the square inside. */
function around(places: number, bed: Bed, { wide, tall }: Cell): { x: number; y: number }[] {
  const { minX, maxX, minY, maxY } = bedBox(bed);
  const round = bed.shape === 'round' ? Math.SQRT1_2 : 1;
  const x = Math.max(0, (round * (maxX - minX) - wide) / 2 - RIM);
  const y = Math.max(0, (round * (maxY - minY) - tall) / 2 - RIM);
  const sides = places === 1 ? [-1, 1] : [-1, 0, 1];
  return sides
    .flatMap((sx) => sides.map((sy) => ({ sx, sy })))
    .filter(({ sx, sy }) => sx !== 0 || sy !== 0)
    .map(({ sx, sy }) => ({ x: sx * x, y: sy * y }));
}

const keepApart = (boxes: readonly Box[]): boolean =>
  boxes.every((a, i) =>
    boxes.slice(i + 1).every((b) => {
      const wide = growBox(a, PATCH_GAP);
      return (
        b.maxX <= wide.minX || b.minX >= wide.maxX || b.maxY <= wide.minY || b.minY >= wide.maxY
      );
    }),
  );
