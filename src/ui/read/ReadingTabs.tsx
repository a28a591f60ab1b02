'use client';
// Which print and which look at it; several are pooled in the finding. Both can be archived and brought back.
import Link from 'next/link';
import { useState, type ReactNode } from 'react';
import { ActButton, type Outcome } from '../common/ActButton';
import { UndoNote } from '../common/UndoNote';

type Shelf = 'reading' | 'print';
type Props = {
  ladderId: number;
  chosen: number;
  /** Print that the chosen reading is of, and what it is called. */
  print: { id: number; label: string };
  all: { id: number; label: string }[];
  again: () => Promise<Outcome>;
  copy: () => Promise<Outcome>;
  archive: (shelf: Shelf, id: number, away: boolean) => Promise<Outcome>;
  /** The way to the same reading on a phone. */
  onPhone: ReactNode;
};

export function ReadingTabs({
  ladderId,
  chosen,
  print,
  all,
  again,
  copy,
  archive,
  onPhone,
}: Props) {
  const [gone, setGone] = useState<{ shelf: Shelf; id: number; label: string } | null>(null);
  const label = all.find(({ id }) => id === chosen)?.label ?? '';
  const away = (shelf: Shelf, id: number, name: string) => async () => {
    const outcome = await archive(shelf, id, true);
    if (outcome.ok) setGone({ shelf, id, label: name });
    return outcome;
  };
  return (
    <div className="mx-4 flex flex-wrap items-start gap-x-4 lg:mx-7 lg:mt-1">
      <details className="min-w-0 flex-1 open:basis-full" open={gone !== null || undefined}>
        <summary className="soft min-h-8 cursor-pointer leading-8">
          {label} · more readings{all.length > 1 && ` (${all.length})`}
        </summary>
        <div className="flex flex-wrap items-center gap-2 pb-2">
          {all.map((one) => (
            <Link
              key={one.id}
              href={`/ladder/${ladderId}/read?reading=${one.id}`}
              aria-current={one.id === chosen ? 'page' : undefined}
              className={`btn btn-sm font-normal ${one.id === chosen ? 'btn-chosen' : 'btn-ghost'}`}
            >
              {one.label}
            </Link>
          ))}
          <ActButton className="btn-quiet btn-sm" act={again}>
            Score the same print again
          </ActButton>
          <ActButton className="btn-quiet btn-sm" act={copy}>
            Printed again
          </ActButton>
          <ActButton
            needs="change"
            className="btn btn-ghost btn-sm font-normal"
            act={away('reading', chosen, label)}
          >
            Archive {label}
          </ActButton>
          <ActButton
            needs="change"
            className="btn btn-ghost btn-sm font-normal"
            act={away('print', print.id, print.label)}
          >
            {/* Named: on the way to another print, a press still means the one that is shown. */}
            Archive {print.label}
          </ActButton>
          {gone && (
            <UndoNote
              text={`${gone.label} is in the archive.`}
              undo={async () => {
                const outcome = await archive(gone.shelf, gone.id, false);
                if (outcome.ok) setGone(null);
                return outcome;
              }}
            />
          )}
        </div>
      </details>
      <Link
        href={`/ladder/${ladderId}/loupe?print=${print.id}`}
        className="btn-quiet btn-sm max-lg:min-h-8"
      >
        Measure on a picture
      </Link>
      {onPhone}
    </div>
  );
}
