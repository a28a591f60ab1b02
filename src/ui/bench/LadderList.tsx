'use client';
// Ladders of this bench, newest first. Putting one away can be undone until the page is left.
import Link from 'next/link';
import { useState } from 'react';
import { ActButton, type Outcome } from '../common/ActButton';
import { age } from '../common/format';
import { UndoNote } from '../common/UndoNote';

type Row = { id: number; title: string; range: string; at: string; state: string };
type Act = (id: number, away: boolean) => Promise<Outcome>;

export function LadderList({
  ladders,
  nowMs,
  putAway,
}: {
  ladders: readonly Row[];
  nowMs: number;
  putAway: Act;
}) {
  const [gone, setGone] = useState<Row | null>(null);
  if (ladders.length === 0 && !gone) return null;
  return (
    <section className="rule-above">
      <h2>Ladders of this bench</h2>
      {gone && (
        <UndoNote
          text={`${gone.title}, ${gone.range}, was put away.`}
          undo={async () => {
            await putAway(gone.id, false);
            setGone(null);
          }}
        />
      )}
      <ul className="divide-base-300 divide-y">
        {ladders.map((row) => (
          <li key={row.id} className="flex flex-wrap items-center gap-x-4">
            <Link
              className="flex min-h-11 flex-1 items-center gap-3 hover:underline"
              href={`/ladder/${row.id}`}
            >
              <span className="font-medium">{row.title}</span> {row.range}
            </Link>
            <span className="soft">{age(row.at, nowMs)}</span>
            <ActButton
              className="btn btn-ghost btn-sm font-normal"
              label={`Put away ${row.title} ${row.range}`}
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
