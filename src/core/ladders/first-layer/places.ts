/** Where patches lie on the bed: two columns in the middle, and blocks toward the corners and sides. */

import { bedBox, growBox, type Box } from '../../bench/bed';
import type { Bed } from '../../bench/machine';

export const PLACES = ['the middle', 'the middle and four corners', 'the whole bed'];

/** Free bed around everything that is laid, mm. */
const RIM = 12;
/** Between two patches, mm. */
export const PATCH_GAP = 3;

/**
 * A group of patches: its middle about that of the bed, mm, and how many stand side by side. Those of a staggered
 * group each have a row of their own, and change sides from row to row.
 */
export type Group = { x: number; y: number; columns: number; staggered?: true };
/** Room of one patch with its label, mm. */
export type Cell = { wide: number; tall: number };

/** Size of a group of `count` patches, mm. */
function sizeOf(
  { columns, staggered }: Pick<Group, 'columns' | 'staggered'>,
  { wide, tall }: Cell,
  count: number,
): Cell {
  const rows = staggered ? count : Math.ceil(count / columns);
  return {
    wide: columns * (wide + PATCH_GAP) - PATCH_GAP,
    tall: rows * (tall + PATCH_GAP) - PATCH_GAP,
  };
}

/** Where the patch of the value `index` begins in a group, mm: front left. */
export function cornerOf(group: Group, cell: Cell, count: number, index: number) {
  const { wide, tall } = sizeOf(group, cell, count);
  const place = spread(count)[index]!;
  const column = place % group.columns;
  const row = group.staggered ? place : Math.floor(place / group.columns);
  return {
    x: group.x - wide / 2 + column * (cell.wide + PATCH_GAP),
    y: group.y - tall / 2 + row * (cell.tall + PATCH_GAP),
  };
}

const known = new Map<number, number[]>();

/**
 * Places of rising values, so mixed that neither along the bed nor across it one side has the higher ones: a bed that
 * tilts would else look as an offset does. Found by exchanging pairs for as long as that helps.
 *
 * @returns for each value its place, 0 to `count` − 1
 */
export function spread(count: number): number[] {
  const found = known.get(count);
  if (found) return found;
  const places = Array.from({ length: count }, (_, i) => i);
  let cost = leaning(places);
  for (let better = true; better;) {
    better = false;
    for (let a = 0; a < count; a++)
      for (let b = a + 1; b < count; b++) {
        [places[a], places[b]] = [places[b]!, places[a]!];
        const other = leaning(places);
        if (other < cost - LEAST_GAIN) {
          cost = other;
          better = true;
        } else [places[a], places[b]] = [places[b]!, places[a]!];
      }
  }
  known.set(count, places);
  return places;
}
const LEAST_GAIN = 1e-9;

/** How far values rise along the places and from one side to the other; 0 where they do not. */
function leaning(places: readonly number[]): number {
  const middle = (places.length - 1) / 2;
  const [along, across] = places.reduce(
    ([y, x], place, value) => [
      y + (value - middle) * (place - middle),
      x + (value - middle) * (place % 2 === 0 ? -1 : 1),
    ],
    [0, 0] as [number, number],
  );
  return Math.abs(along) + Math.abs(across);
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
  const middle: Group = { x: 0, y: 0, columns: 2, staggered: true };
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
