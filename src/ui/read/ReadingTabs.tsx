'use client';
// Which print and which look at it; several are pooled in the finding.
import Link from 'next/link';
import { useState } from 'react';
import { ActButton, type Outcome } from '../common/ActButton';
import { UndoNote } from '../common/UndoNote';

type Props = {
  ladderId: number;
  chosen: number;
  all: { id: number; label: string }[];
  again: () => Promise<Outcome>;
  copy: () => Promise<Outcome>;
  putAway: (id: number, away: boolean) => Promise<Outcome>;
};

export function ReadingTabs({ ladderId, chosen, all, again, copy, putAway }: Props) {
  const [gone, setGone] = useState<{ id: number; label: string } | null>(null);
  return (
    <details className="mx-4 lg:mx-7">
      <summary className="soft min-h-8 cursor-pointer leading-8">
        {all.find(({ id }) => id === chosen)?.label}
        {all.length > 1 && ` of ${all.length}`} · more readings
      </summary>
      <div className="flex flex-wrap items-center gap-2 pb-2">
        {all.map(({ id, label }) => (
          <Link
            key={id}
            href={`/ladder/${ladderId}/read?reading=${id}`}
            aria-current={id === chosen ? 'page' : undefined}
            className={`btn btn-sm font-normal ${id === chosen ? 'btn-neutral' : 'btn-ghost'}`}
          >
            {label}
          </Link>
        ))}
        <ActButton className="btn-quiet btn-sm" act={again}>
          Read the same print again
        </ActButton>
        <ActButton className="btn-quiet btn-sm" act={copy}>
          Printed once more
        </ActButton>
        {all.length > 1 && (
          <ActButton
            className="btn btn-ghost btn-sm font-normal"
            act={async () => {
              await putAway(chosen, true);
              setGone(all.find(({ id }) => id === chosen) ?? null);
            }}
          >
            Leave this reading out
          </ActButton>
        )}
        {gone && (
          <UndoNote
            text={`${gone.label} was left out.`}
            undo={async () => {
              await putAway(gone.id, false);
              setGone(null);
            }}
          />
        )}
      </div>
    </details>
  );
}
