/**
 * A map of pressure advance on the bed: rows of a speed, the slowest in front, each from gentle to hard. A cell:
 *
 *          ╵   86    ╵          melt flow behind it, tenths of mm³/s
 *     ▐────━━━━━━━━━━────╮  42
 *     ▐────━━━━━━━━━━────╯      hairpins over a short range of values, the lowest in front
 *     ▐────━━━━━━━━━━────╮  30
 *     ▐────━━━━━━━━━━────╯
 *          ╷  1200   ╷          acceleration before it, mm/s²
 */

import type { Box, Point } from '../../bench/bed';
import type { Bench } from '../../bench/bench';
import { beadWidthOf } from '../../deposit/conditions';
import { hairpins, type Pattern } from '../advance/flat';
import { climb } from '../climb';
import { flatText, signHeight, signWidth, type Line, type PatternRung } from '../flat-pattern';
import { rampOf, signsOf, type MapCell, type MapSpec } from './cells';

/** What the form needs of a spec. */
export type StripSpec = Pick<
  MapSpec,
  'from' | 'to' | 'step' | 'slow' | 'slowLength' | 'hold' | 'layerHeight'
>;
/** Signs before and behind a cell. */
type SignsOf = (cell: MapCell) => [before: string, behind: string];

/** Length of the way to the first arrow of each column, mm: as deep as the signs between them. */
const LEAD = 5;
/** Free way between cells, mm. */
const BETWEEN = 3;
/** Free way beside a sign, mm. */
const BESIDE = 1.5;

const beadOf = ({ layerHeight }: StripSpec, { nozzle }: Bench): number =>
  Math.max(beadWidthOf(nozzle.diameter), layerHeight);

/** Way between the arrows of a cell, mm: to speed up and slow down, at full speed between, and with room for its signs. */
function fastLengthOf(cell: MapCell, spec: StripSpec, bench: Bench, of: SignsOf): number {
  const bead = beadOf(spec, bench);
  const signs = Math.max(...of(cell).map((text) => signWidth(text, bead)));
  return Math.ceil(Math.max(2 * rampOf(cell, spec.slow) + spec.hold, signs + 2 * BESIDE));
}

/** A cell by itself, its rail at x = 0. */
function cellOf(
  cell: MapCell,
  spec: StripSpec,
  bench: Bench,
  of: SignsOf,
  unlabelled = false,
): Pattern {
  const bead = beadOf(spec, bench);
  const fastLength = fastLengthOf(cell, spec, bench, of);
  const { slow, slowLength, layerHeight } = spec;
  const lead = Math.max(LEAD, signHeight(bead));
  const strip = hairpins(
    climb(spec),
    { slow, slowLength, layerHeight, fastLength, speed: cell.speed, lead, unlabelled },
    bench,
  );
  const { box } = strip;
  const signs = of(cell).flatMap((text, i) => {
    const x = slowLength + (fastLength - signWidth(text, bead)) / 2;
    return flatText(text, x, i === 0 ? box.minY : box.maxY - signHeight(bead), bead);
  });
  return { ...strip, marks: [...strip.marks, ...signs] };
}

const at = ({ x, y }: Point, dx: number, dy: number): Point => ({ x: x + dx, y: y + dy });
const boxAt = (box: Box, dx: number, dy: number): Box => ({
  minX: box.minX + dx,
  maxX: box.maxX + dx,
  minY: box.minY + dy,
  maxY: box.maxY + dy,
});
const lineAt = (line: Line, dx: number, dy: number): Line => ({
  ...line,
  path: line.path.map((point) => at(point, dx, dy)),
});

/** Depth of every row and width of every column of cells, mm, gaps included. */
export function stridesOf(
  rows: readonly MapCell[][],
  spec: StripSpec,
  bench: Bench,
  of: SignsOf = signsOf,
  aligned = false,
) {
  const boxes = rows.map((row) =>
    row.map((cell, i) => cellOf(cell, spec, bench, of, aligned && i < row.length - 1).box),
  );
  const columns = (boxes[0] ?? []).map((_, column) =>
    Math.max(...boxes.map((row) => row[column]!.maxX - row[column]!.minX)),
  );
  const deep = Math.max(...boxes.flat().map(({ minY, maxY }) => maxY - minY));
  return { columns: columns.map((wide) => wide + BETWEEN), row: deep + BETWEEN };
}

/**
 * A block of cells, row behind row; its figures are in the order of the plan: value by value, each over all cells.
 *
 * @param aligned the values of all cells in a row stand beside each other, and are told once, at the right
 */
export function mapPattern(
  rows: readonly MapCell[][],
  spec: StripSpec,
  bench: Bench,
  of: SignsOf = signsOf,
  aligned = false,
) {
  const { columns, row: stride } = stridesOf(rows, spec, bench, of, aligned);
  const cells = rows.flatMap((row, i) =>
    row.map((cell, column) => {
      const left = columns.slice(0, column).reduce((sum, wide) => sum + wide, 0);
      const made = cellOf(cell, spec, bench, of, aligned && column < row.length - 1);
      return { ...made, dx: left - made.box.minX, dy: i * stride - made.box.minY };
    }),
  );
  const { length: values } = climb(spec);
  const rungs = Array.from({ length: values }, (_, value) =>
    cells.map(({ rungs: of, dx, dy }): PatternRung => {
      const { lines, boxes } = of[value]!;
      return {
        lines: lines.map((layer) => layer.map((line) => lineAt(line, dx, dy))),
        boxes: boxes.map((box) => boxAt(box, dx, dy)),
      };
    }),
  ).flat();
  const boxes = cells.map(({ box, dx, dy }) => boxAt(box, dx, dy));
  return {
    box: {
      minX: Math.min(...boxes.map((box) => box.minX)),
      minY: Math.min(...boxes.map((box) => box.minY)),
      maxX: Math.max(...boxes.map((box) => box.maxX)),
      maxY: Math.max(...boxes.map((box) => box.maxY)),
    },
    marks: cells.flatMap(({ marks, dx, dy }) => marks.map((line) => lineAt(line, dx, dy))),
    rungs,
    // Cell by cell, so that acceleration changes as seldom as it may.
    order: cells.flatMap((_, cell) =>
      Array.from({ length: values }, (_value, value) => value * cells.length + cell),
    ),
  };
}
