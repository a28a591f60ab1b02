'use client';
// One shelf: what is on it, a way to add, and a way to put away that can be undone.
import Link from 'next/link';
import { useState, type ReactNode } from 'react';
import { ActButton, type Outcome } from '../common/ActButton';
import { UndoNote } from '../common/UndoNote';

type Shelf = 'machines' | 'filaments' | 'benches';
type Thing = { id: number; name: string; about: string; href: string };
type Props = {
  title: string;
  shelf: Shelf;
  things: Thing[];
  empty: string;
  putAway: (shelf: Shelf, id: number, away: boolean) => Promise<Outcome>;
  children: ReactNode;
};

export function ThingList({ title, shelf, things, empty, putAway, children }: Props) {
  const [gone, setGone] = useState<Thing | null>(null);
  return (
    <section>
      <h2 className="text-base-content text-xl font-semibold">{title}</h2>
      {gone && (
        <UndoNote
          text={`${gone.name} was put away.`}
          undo={async () => {
            await putAway(shelf, gone.id, false);
            setGone(null);
          }}
        />
      )}
      {things.length === 0 && <p className="soft mb-2">{empty}</p>}
      <ul className="divide-base-300 border-base-300 divide-y border-y">
        {things.map((thing) => (
          <li key={thing.id} className="flex items-center gap-3">
            <Link
              href={thing.href}
              className="flex min-h-14 flex-1 flex-col justify-center hover:underline"
            >
              <span className="font-medium">{thing.name}</span>
              <span className="soft">{thing.about}</span>
            </Link>
            <ActButton
              className="btn btn-ghost btn-sm font-normal"
              label={`Put away ${thing.name}`}
              act={async () => {
                await putAway(shelf, thing.id, true);
                setGone(thing);
              }}
            >
              Put away
            </ActButton>
          </li>
        ))}
      </ul>
      <details className="mt-3">
        <summary className="btn-quiet">Add</summary>
        <ul className="bg-base-200 mt-2 rounded">{children}</ul>
      </details>
    </section>
  );
}
