// A grid as a table of buttons, the highest row first, for where the drawing itself is too small to press.
import type { ReactNode } from 'react';
import { css, inkOn, scaleColour } from '@/core/view/scale';
import type { Cells } from '@/core/view/cells';

type Props = {
  cells: Cells;
  /** The rung that is looked at. */
  current: number;
  title: string;
  label: (rung: number) => string;
  pressed?: (rung: number) => boolean;
  children: (rung: number) => ReactNode;
  onChoose: (rung: number) => void;
  className?: string;
};

export function CellMap(props: Props) {
  const { cells, current, title, label, pressed, children, onChoose, className = '' } = props;
  return (
    <table className={`w-full table-fixed border-separate border-spacing-1 ${className}`}>
      <caption className="sr-only">{title}</caption>
      <tbody>
        {cells.rows
          .map((row, i) => ({ row, of: cells.rung[i]! }))
          .reverse()
          .map(({ row, of }) => (
            <tr key={row.index}>
              <th
                scope="row"
                className="w-13 rounded px-1 text-center"
                style={{ background: css(scaleColour(row.share)), color: inkOn(row.share) }}
              >
                {row.label}
              </th>
              {of.map((rung) => (
                <td key={rung} className="p-0">
                  <button
                    type="button"
                    aria-label={label(rung)}
                    aria-current={rung === current}
                    aria-pressed={pressed?.(rung)}
                    className={`border-secondary flex min-h-9 w-full touch-manipulation items-center justify-center rounded border ${
                      rung === current ? 'outline-primary bg-accent/60 outline-3' : ''
                    }`}
                    onClick={() => onChoose(rung)}
                  >
                    {children(rung)}
                  </button>
                </td>
              ))}
            </tr>
          ))}
      </tbody>
      <tfoot>
        <tr>
          <td className="soft text-center text-[13px]">{cells.across.unit}</td>
          {cells.columns.map(({ index, label: text }) => (
            <th key={index} scope="col" className="text-center text-[13px] leading-none">
              {text}
            </th>
          ))}
        </tr>
      </tfoot>
    </table>
  );
}
