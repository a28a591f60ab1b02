// A map as it lies on the bed, with something over each of its figures; and one cell of it, enlarged.
import type { CSSProperties, ReactNode } from 'react';
import type { Box } from '@/core/bench/bed';
import { commonOf, type Figure, type Strip, type Strips } from '@/core/view/strips';

type Props = {
  strips: Strips;
  picture: ReactNode;
  /** Over a cell, and over each of its figures. */
  inCell?: (cell: Strip) => ReactNode;
  inFigure?: (figure: Figure, cell: Strip) => ReactNode;
  /** It sets `--room` and `--tall`, which the drawing stays within. */
  className?: string;
};

/** Where a box lies within another one, in percent. */
const within = (box: Box, sheet: Box): CSSProperties => {
  const [wide, tall] = [sheet.maxX - sheet.minX, sheet.maxY - sheet.minY];
  return {
    left: `${(100 * (box.minX - sheet.minX)) / wide}%`,
    width: `${(100 * (box.maxX - box.minX)) / wide}%`,
    bottom: `${(100 * (box.minY - sheet.minY)) / tall}%`,
    height: `${(100 * (box.maxY - box.minY)) / tall}%`,
  };
};

export function PrintWithStrips({ strips, picture, inCell, inFigure, className = '' }: Props) {
  const { wide, tall, cells } = strips;
  const sheet = { minX: 0, minY: 0, maxX: wide, maxY: tall };
  const { rows, columns } = commonOf(strips);
  return (
    <div
      className={`drawing relative mr-20 mb-6 ${className}`}
      style={{
        aspectRatio: `${wide} / ${tall}`,
        width: `min(var(--room) - 5rem, calc(var(--tall) * ${wide / tall}))`,
      }}
    >
      {rows.map(({ said, at }) => (
        <b
          key={said}
          className="absolute left-full ml-2 translate-y-1/2 text-sm leading-none whitespace-nowrap"
          style={{ bottom: `${(100 * at) / tall}%` }}
        >
          {said}
        </b>
      ))}
      {columns.map(({ said, at }) => (
        <b
          key={said}
          className="absolute top-full mt-1.5 -translate-x-1/2 text-sm leading-none whitespace-nowrap"
          style={{ left: `${(100 * at) / wide}%` }}
        >
          {said}
        </b>
      ))}
      <div className="absolute inset-0 [&>*]:h-full [&>*]:w-full">{picture}</div>
      {inCell &&
        cells.map((cell) => (
          <div key={cell.index} className="absolute" style={within(cell.own, sheet)}>
            {inCell(cell)}
          </div>
        ))}
      {inFigure &&
        cells.flatMap((cell) =>
          cell.figures.map((figure) => (
            <div key={figure.rung} className="absolute" style={within(figure.box, sheet)}>
              {inFigure(figure, cell)}
            </div>
          )),
        )}
    </div>
  );
}

/** A few words at the corner of a cell that is otherwise free. */
export function CellTag({ children }: { children: ReactNode }) {
  return (
    <span className="bg-base-100/85 pointer-events-none absolute top-0 right-0 rounded px-1 text-[13px] leading-tight font-semibold">
      {children}
    </span>
  );
}

type CloseProps = {
  strips: Strips;
  cell: Strip;
  picture: string;
  /** Across the whole width, in the height of a figure. */
  row: (figure: Figure) => ReactNode;
};

/** One cell as large as there is room, with something across each of its figures. */
export function CellClosely({ strips, cell, picture, row }: CloseProps) {
  const { box } = cell;
  const [wide, tall] = [box.maxX - box.minX, box.maxY - box.minY];
  const sheet = within({ minX: 0, minY: 0, maxX: strips.wide, maxY: strips.tall }, box);
  return (
    <div
      className="drawing relative overflow-hidden"
      style={{
        aspectRatio: `${wide} / ${tall}`,
        width: `min(100%, calc(var(--tall) * ${wide / tall}))`,
      }}
    >
      <div className="absolute [&>*]:h-full [&>*]:w-full" style={sheet}>
        {/* eslint-disable-next-line @next/next/no-img-element -- a part of a picture that is there already */}
        <img src={picture} alt="" draggable={false} className="max-w-none" />
      </div>
      {cell.figures.map((figure) => {
        const { bottom, height } = within(figure.box, box);
        return (
          <div key={figure.rung} className="absolute inset-x-0" style={{ bottom, height }}>
            {row(figure)}
          </div>
        );
      })}
    </div>
  );
}
