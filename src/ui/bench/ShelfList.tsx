'use client';
// What belongs to this bench, newest first. Putting one away can be undone until the page is left.
import Link from 'next/link';
import { useState } from 'react';
import { ActButton, type Outcome } from '../common/ActButton';
import { age } from '../common/format';
import { UndoNote } from '../common/UndoNote';

export type ShelfRow = { id: number; title: string; detail: string; href: string; at: string };
type Act = (id: number, away: boolean) => Promise<Outcome>;

type Props = { title: string; rows: readonly ShelfRow[]; nowMs: number; putAway: Act };

export function ShelfList({ title, rows, nowMs, putAway }: Props) {
  const [gone, setGone] = useState<ShelfRow | null>(null);
  if (rows.length === 0 && !gone) return null;
  return (
    <section className="rule-above">
      <h2>{title}</h2>
      {gone && (
        <UndoNote
          text={`${gone.title}, ${gone.detail}, was put away.`}
          undo={async () => {
            await putAway(gone.id, false);
            setGone(null);
          }}
        />
      )}
      <ul className="divide-base-300 divide-y">
        {rows.map((row) => (
          <li key={row.id} className="flex flex-wrap items-center gap-x-4">
            <Link
              className="flex min-h-11 flex-1 items-center gap-3 hover:underline"
              href={row.href}
            >
              <span className="font-medium">{row.title}</span> {row.detail}
            </Link>
            <span className="soft">{age(row.at, nowMs)}</span>
            <ActButton
              className="btn btn-ghost btn-sm font-normal"
              label={`Put away ${row.title} ${row.detail}`}
              act={async () => {
                await putAway(row.id, true);
                setGone(row);
              }}
            >
              Put away
            </ActButton>
          </li>
        ))}
      </ul>
    </section>
  );
}
