// A grid as it stands on the bench: rows lined up as ever, and something over every cell of the drawing.
import type { ReactNode } from 'react';
import type { Cells, GridLine } from '@/core/view/cells';
import { at, PrintWithRows, RULER } from './PrintWithRows';

export type Row = GridLine & { z: { from: number; to: number } };

type Props = {
  cells: Cells;
  height: number;
  width: number;
  stretch?: number;
  picture: ReactNode;
  /** What lies over a cell of the drawing, by its rung. */
  inCell?: (rung: number) => ReactNode;
  /** What stands beside a row; its name where nothing is said. */
  row?: (row: Row) => ReactNode;
  /** Drawn over the whole picture, in the size of the picture. */
  over?: ReactNode;
  head?: ReactNode;
  className?: string;
  beside?: string;
};

/** Whether a print is so wide that it stands over what is said of it, not beside it. */
export const liesWide = ({ height, width }: { height: number; width: number }): boolean =>
  width > 2 * height;

/** Size of letters in a row, however low it is. */
export const fitting = ({ from, to }: { from: number; to: number }) => ({
  fontSize: `min(1.25rem, calc(${to - from} * var(--up) * 0.75))`,
  lineHeight: 1,
});

/** Room beside the name of a row, and of each of its letters, rem. */
const [NAME_REM, LETTER_REM] = [1.25, 0.7];

/** Rows of a grid as other prints have rungs. */
export const rowsOf = ({ rows }: Cells): Row[] =>
  rows.map((row) => ({ ...row, z: { from: row.from, to: row.to } }));

export function PrintWithCells({ cells, picture, inCell, row, over, ...rest }: Props) {
  const { height, width } = rest;
  const wide = width + 2;
  return (
    <div className="max-lg:overflow-x-auto" tabIndex={liesWide(rest) ? 0 : undefined}>
      <PrintWithRows
        {...rest}
        rungs={rowsOf(cells)}
        besideAtLeast={`${NAME_REM + LETTER_REM * Math.max(...cells.rows.map(({ name }) => name.length))}rem`}
        picture={
          <div className="relative">
            <div className="absolute inset-0 [&>*]:h-full [&>*]:w-full">{picture}</div>
            {over && <div className="pointer-events-none absolute inset-0">{over}</div>}
            {inCell &&
              cells.rung.flatMap((of, row) =>
                of.map((rung, column) => (
                  <div
                    key={rung}
                    className="absolute"
                    style={boxIn(cells.rows[row]!, cells.columns[column]!, height, wide)}
                  >
                    {inCell(rung)}
                  </div>
                )),
              )}
          </div>
        }
        row={(line) =>
          row ? (
            row(line)
          ) : (
            <strong className="pl-3 whitespace-nowrap" style={fitting(line)}>
              {line.name}
            </strong>
          )
        }
        foot={
          <div className="relative h-6" style={{ marginLeft: RULER }} aria-hidden>
            {cells.columns.map(({ index, label, from, to }) => (
              <b
                key={index}
                className="absolute top-1 -translate-x-1/2 text-[13px] leading-none whitespace-nowrap"
                style={{ left: at((from + to) / 2) }}
              >
                {label}
              </b>
            ))}
            <span
              className="soft absolute top-0.5 pl-3 text-[13px] whitespace-nowrap"
              style={{ left: at(wide) }}
            >
              {cells.across.unit}
            </span>
          </div>
        }
      />
    </div>
  );
}

const boxIn = (row: GridLine, column: GridLine, height: number, wide: number) => ({
  left: `${(100 * column.from) / wide}%`,
  width: `${(100 * (column.to - column.from)) / wide}%`,
  bottom: `${(100 * row.from) / height}%`,
  height: `${(100 * (row.to - row.from)) / height}%`,
});
