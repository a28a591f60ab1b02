'use client';
// A table that is pasted elsewhere: its rows as they will be pasted, one press to copy them, and how they are written.
import { ArrowDown, ArrowUp } from 'lucide-react';
import { useId, useRef, useState } from 'react';
import {
  columnsOf,
  COLUMNS,
  rowsCsv,
  rowsText,
  SEPARATORS,
  writtenColumns,
  type Column,
  type Row,
  type RowStyle,
  type Separator,
} from '@/core/reading/rows';
import type { Outcome } from './ActButton';

type Props = {
  title?: string;
  rows: Row[];
  style: RowStyle;
  keepStyle: (style: RowStyle) => Promise<Outcome>;
  /** Name of the file, without its ending. */
  file: string;
};

export function RowsOut({ title = 'Rows to paste', rows, style: first, keepStyle, file }: Props) {
  const [style, setStyle] = useState(first);
  const [copied, setCopied] = useState<boolean | null>(null);
  const area = useRef<HTMLTextAreaElement>(null);
  const id = useId();
  const text = rowsText(rows, style);
  const turn = (next: RowStyle) => {
    if (next.columns.length === 0) return;
    setStyle(next);
    setCopied(null);
    void keepStyle(next);
  };
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(text);
      setCopied(true);
    } catch {
      // Without a secure address a page may only copy what is selected.
      area.current?.select();
      setCopied(document.execCommand('copy'));
    }
  };
  const columns = writtenColumns(rows, style);
  const others = columnsOf(rows).filter((one) => !columns.includes(one));
  const moved = (at: number) => {
    const next = [...columns];
    [next[at - 1], next[at]] = [next[at]!, next[at - 1]!];
    return next;
  };
  return (
    <section className="rule-above" aria-label={title}>
      <h2>{title}</h2>
      <p className="soft">
        {columns.map((column) => `${COLUMNS[column].title}, ${COLUMNS[column].unit}`).join(' · ')}
      </p>
      <textarea
        ref={area}
        readOnly
        aria-label="Rows"
        className="bg-base-200 mt-1 w-full max-w-md rounded px-3 py-2 font-mono text-base"
        rows={Math.min(12, rows.length)}
        value={text}
      />
      <div className="mt-2 flex flex-wrap items-center gap-3">
        <button type="button" className="btn-quiet" onClick={() => void copy()}>
          Copy rows
        </button>
        <a
          className="btn-quiet"
          download={`${file}.csv`}
          href={`data:text/csv;charset=utf-8,${encodeURIComponent(rowsCsv(rows))}`}
        >
          Save as CSV
        </a>
        <span role="status" className="soft">
          {copied === true && 'Copied.'}
          {copied === false && 'This browser does not let pages copy: the rows are selected.'}
        </span>
      </div>
      <details className="mt-2">
        <summary className="min-h-11 cursor-pointer leading-[2.75rem]">
          How rows are written
        </summary>
        <ol className="mt-1 max-w-md">
          {columns.map((column, i) => (
            <li key={column} className="flex min-h-11 items-center gap-2">
              <Chosen
                column={column}
                on
                turn={() => turn({ ...style, columns: columns.filter((one) => one !== column) })}
              />
              {i > 0 && (
                <button
                  type="button"
                  className="btn btn-ghost btn-sm"
                  aria-label={`${COLUMNS[column].title} before ${COLUMNS[columns[i - 1]!].title}`}
                  onClick={() => turn({ ...style, columns: moved(i) })}
                >
                  <ArrowUp size={16} aria-hidden />
                </button>
              )}
              {i < columns.length - 1 && (
                <button
                  type="button"
                  className="btn btn-ghost btn-sm"
                  aria-label={`${COLUMNS[column].title} after ${COLUMNS[columns[i + 1]!].title}`}
                  onClick={() => turn({ ...style, columns: moved(i + 1) })}
                >
                  <ArrowDown size={16} aria-hidden />
                </button>
              )}
            </li>
          ))}
          {others.map((column) => (
            <li key={column} className="flex min-h-11 items-center gap-2">
              <Chosen
                column={column}
                turn={() => turn({ ...style, columns: [...columns, column] })}
              />
            </li>
          ))}
        </ol>
        <label className="mt-1 flex items-center gap-3" htmlFor={id}>
          Between two numbers
          <select
            id={id}
            className="select w-auto"
            value={style.separator}
            onChange={(event) => turn({ ...style, separator: event.target.value as Separator })}
          >
            {Object.keys(SEPARATORS).map((name) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        </label>
      </details>
    </section>
  );
}

function Chosen({ column, on = false, turn }: { column: Column; on?: boolean; turn: () => void }) {
  const { title, unit } = COLUMNS[column];
  return (
    <label className="flex min-h-11 flex-1 items-center gap-3">
      <input type="checkbox" className="checkbox" checked={on} onChange={turn} />
      {title}, {unit}
    </label>
  );
}
