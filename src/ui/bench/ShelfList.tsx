'use client';
// What belongs to this bench, newest first. What goes into the archive can be brought back, here at once.
import Link from 'next/link';
import { useState } from 'react';
import { ActButton, type Outcome } from '../common/ActButton';
import { age } from '../common/format';
import { UndoNote } from '../common/UndoNote';

export type ShelfRow = {
  id: number;
  title: string;
  detail: string;
  href: string;
  at: string;
  /** Something else to do with it. */
  also?: { href: string; label: string };
};
type Shelf = 'ladder' | 'file';
type Act = (shelf: Shelf, id: number, away: boolean) => Promise<Outcome>;

type Props = {
  title: string;
  rows: readonly ShelfRow[];
  nowMs: number;
  shelf: Shelf;
  archive: Act;
};

export function ShelfList({ title, rows, nowMs, shelf, archive }: Props) {
  const [gone, setGone] = useState<ShelfRow | null>(null);
  if (rows.length === 0 && !gone) return null;
  return (
    <section className="rule-above">
      <h2>{title}</h2>
      {gone && (
        <UndoNote
          text={`${gone.title}, ${gone.detail}, is in the archive.`}
          undo={async () => {
            const outcome = await archive(shelf, gone.id, false);
            if (outcome.ok) setGone(null);
            return outcome;
          }}
        />
      )}
      <ul className="divide-base-300 divide-y">
        {rows.map((row) => (
          <li key={row.id} className="flex flex-wrap items-center gap-x-4">
            <Link
              className="flex min-h-11 min-w-0 flex-1 items-center gap-3 hover:underline"
              href={row.href}
            >
              <span className="font-medium break-words">{row.title}</span>
              <span className="min-w-0 break-all">{row.detail}</span>
            </Link>
            {row.also && (
              <Link className="btn-quiet btn-sm" href={row.also.href}>
                {row.also.label}
              </Link>
            )}
            <span className="soft">{age(row.at, nowMs)}</span>
            <ActButton
              className="btn btn-ghost btn-sm font-normal"
              needs="change"
              label={`Archive ${row.title} ${row.detail}`}
              act={async () => {
                const outcome = await archive(shelf, row.id, true);
                if (outcome.ok) setGone(row);
                return outcome;
              }}
            >
              Archive
            </ActButton>
          </li>
        ))}
      </ul>
    </section>
  );
}
