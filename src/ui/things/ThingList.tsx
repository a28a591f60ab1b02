'use client';
// One shelf: what is on it, a way to add, and a way to put away that can be undone.
import Link from 'next/link';
import { useState, type ReactNode } from 'react';
import { ActButton, type Outcome } from '../common/ActButton';
import { UndoNote } from '../common/UndoNote';

type Shelf = 'machine' | 'filament' | 'bench';
type Thing = { id: number; name: string; about: string; href: string };
type Props = {
  title: string;
  shelf: Shelf;
  things: Thing[];
  empty: string;
  archive: (shelf: Shelf, id: number, away: boolean) => Promise<Outcome>;
  /** Said, and linked, where more are kept than are listed. */
  more: { count: number; href: string } | null;
  children: ReactNode;
};

export function ThingList({ title, shelf, things, empty, archive, more, children }: Props) {
  const [gone, setGone] = useState<Thing | null>(null);
  return (
    <section>
      <h2 className="text-base-content text-xl font-semibold">{title}</h2>
      {gone && (
        <UndoNote
          text={`${gone.name} is in the archive.`}
          undo={async () => {
            const outcome = await archive(shelf, gone.id, false);
            if (outcome.ok) setGone(null);
            return outcome;
          }}
        />
      )}
      {things.length === 0 && <p className="soft mb-2">{empty}</p>}
      <ul className="divide-base-300 border-base-300 divide-y border-y">
        {things.map((thing) => (
          <li key={thing.id} className="flex items-center gap-3">
            <Link
              href={thing.href}
              className="flex min-h-14 min-w-0 flex-1 flex-col justify-center hover:underline"
            >
              <span className="font-medium [overflow-wrap:anywhere]">
                <bdi>{thing.name}</bdi>
              </span>
              <span className="soft">{thing.about}</span>
            </Link>
            <ActButton
              className="btn btn-ghost btn-sm font-normal"
              needs="change"
              label={`Archive ${thing.name}`}
              act={async () => {
                const outcome = await archive(shelf, thing.id, true);
                if (outcome.ok) setGone(thing);
                return outcome;
              }}
            >
              Archive
            </ActButton>
          </li>
        ))}
      </ul>
      {more && (
        <p className="mt-2">
          <Link className="inline-block min-h-6 underline" href={more.href}>
            All {more.count}
          </Link>
        </p>
      )}
      <details className="mt-3">
        <summary className="btn-quiet">Add</summary>
        <ul className="bg-base-200 mt-2 rounded">{children}</ul>
      </details>
    </section>
  );
}
