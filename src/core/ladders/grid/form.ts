/**
 * The form of a grid, seen from its front: rows stand over each other, columns beside each other, and every cell is a
 * small form of its own.
 *
 *     ┌───┐  ▯   ▯   ▯   ▯   ▯   ▯
 *     │205│  ▯   ▯   ▯   ▯   ▯   ▯     what climbs upward stands on the body at the left, raised
 *     ├───┤  ▯   ▯   ▯   ▯   ▯   ▯
 *     │210│  ▯   ▯   ▯   ▯   ▯   ▯
 *     └───┘──▔▔▔▔▔───▔▔▔▔▔───▔▔▔▔▔
 *            1.2     1.6     2         what goes across lies before each column, flat on the bed
 */

import type { Box } from '../../bench/bed';
import type { Layer, Part } from '../../deposit/layer';
import { tidy } from '../../numbers';
import { textWidth } from '../../shape/digits';
import { rect, type Region } from '../../shape/region';
import { signAt, signTall, type SignSize } from '../../shape/sign';
import { bodyAt, bodyFor, type Body } from '../body';
import { stackParts, type Section, type Sizes } from '../tower';

/** What stands in a cell, from its lower left corner on. */
export type CellForm = {
  wide: number;
  deep: number;
  /** Free way to the next column, mm. */
  between: number;
  /** What stands in the layer `within` of a row, from left to right. */
  sections: (within: number) => Section[];
  /**
   * There and back, no way leads back over all gaps, where threads are looked for. In the same order, the cells at the
   * ends are not laid twice in a row and cool as the others do.
   */
  order: 'there-and-back' | 'same';
};

export type GridForm = {
  sizes: Sizes;
  cell: CellForm;
  body: Body;
  rows: readonly string[];
  columns: readonly string[];
  sign: SignSize;
};

/** Height of the sole, mm: it holds, and is no more. */
export const SOLE = 0.4;
/** The sole reaches this far around what stands on it, mm; signs lie this far before it. */
const [AROUND, BEFORE] = [1, 1.2];

export const gridForm = (
  sizes: Sizes,
  cell: CellForm,
  rows: readonly string[],
  columns: readonly string[],
): GridForm => ({
  sizes,
  cell,
  rows,
  columns,
  body: bodyFor(sizes, rows, cell.deep),
  // Strokes of a sign are two beads wide.
  sign: { unit: 2.4 * sizes.bead, stroke: 2 * sizes.bead },
});

/** Cells are whole steps of usual motors apart, mm, so that all are laid alike. */
const WHOLE = 0.6;
/** From cell to cell: at least this far, mm. */
export const strideOf = (least: number): number => tidy(Math.ceil(tidy(least / WHOLE)) * WHOLE);
/** Left edge of a column, mm; the body of the rows ends at 0. */
const leftOf = ({ cell }: GridForm, column: number): number =>
  cell.between + column * strideOf(cell.wide + cell.between);
const endOf = (form: GridForm): number => leftOf(form, form.columns.length - 1) + form.cell.wide;
/** Where signs begin in y, mm. */
const frontOf = ({ sign }: GridForm): number => -AROUND - BEFORE - signTall(sign);

export const footprint = (form: GridForm): Box => ({
  minX: -form.body.width - AROUND,
  maxX: endOf(form) + AROUND,
  minY: frontOf(form),
  maxY: form.cell.deep + AROUND,
});

/** A column and half of the free way on both sides: where its cells are looked at. */
export function boxOfColumn(form: GridForm, column: number): Box {
  const { between, wide, deep } = form.cell;
  const x = leftOf(form, column);
  return { minX: x - between / 2, maxX: x + wide + between / 2, minY: -1, maxY: deep + 1 };
}

const moved = (region: Region, x: number): Region =>
  region.map((ring) => ring.map((point) => ({ ...point, x: point.x + x })));

export function layersOf(form: GridForm): Layer[] {
  const { sizes, cell, body, rows, columns, sign } = form;
  const sole = rect(-body.width - AROUND, -AROUND, endOf(form) + AROUND, cell.deep + AROUND);
  const signs = columns.flatMap((text, column) => {
    const wide = textWidth(text) * sign.unit + sign.stroke;
    const middle = leftOf(form, column) + cell.wide / 2;
    return signAt(text, middle - wide / 2, frontOf(form), sign);
  });
  return stackParts(
    sizes,
    rows.length,
    () => ({ outline: [...sole, ...signs], solid: sole, walls: 1 }),
    (row, within) => {
      const first = row * columns.length;
      const label = moved(bodyAt(body, sizes, rows[row]!, within), -body.width);
      const sections = cell.sections(within);
      const parts = [
        { rung: first, outline: label, solid: [], walls: 1 },
        ...columns.flatMap((_, column) =>
          sections.map((section): Part => ({
            ...section,
            rung: first + column,
            outline: moved(section.outline, leftOf(form, column)),
            solid: moved(section.solid, leftOf(form, column)),
          })),
        ),
      ];
      return cell.order === 'same' || within % 2 === 0 ? parts : parts.reverse();
    },
  );
}

/** Two posts with a gap between them that threads hang in. */
export function twoPosts(bead: number, gap: number, walls: number): CellForm {
  const post = Math.max(3.2, (walls > 1 ? 9 : 7) * bead);
  const sections = [0, post + gap].map((left) => ({
    outline: rect(left, 0, left + post, post),
    solid: [],
    walls,
  }));
  return {
    wide: 2 * post + gap,
    deep: post,
    between: Math.max(7, 0.6 * gap),
    sections: () => sections,
    order: 'there-and-back',
  };
}
