'use client';
// What takes how much room, how much pictures may take, and what could go for good.
import { useState } from 'react';
import { short } from '@/core/numbers';
import { ActButton, type Outcome } from '../common/ActButton';
import { NumberBox } from '../common/NumberBox';
import { NotHere } from '../common/Rights';
import { counted } from '../common/format';

type Part = { count: number; size: number };
type Shelf = 'photo' | 'reading' | 'print' | 'kept';
type Room = {
  pictures: Part;
  ladders: Part;
  kept: Part;
  drawn: Part;
  database: number;
  copies: Part;
  free: number;
  long: Record<Shelf, Part>;
};
type Props = {
  room: Room;
  /** Bytes that pictures may take; null for all that there is. */
  limit: number | null;
  setLimit: (gigabytes: number | null) => Promise<Outcome>;
  forget: (shelf: Shelf) => Promise<Outcome>;
};

const SHELVES: Record<Shelf, [one: string, more: string]> = {
  photo: ['picture', 'pictures'],
  reading: ['reading', 'readings'],
  print: ['print with its pictures and scores', 'prints with their pictures and scores'],
  kept: ['kept file', 'kept files'],
};

export function RoomScreen({ room, limit, setLimit, forget }: Props) {
  const rows: [name: string, about: string, size: number][] = [
    [
      'Pictures',
      many(room.pictures.count, 'picture of a print', 'pictures of prints'),
      room.pictures.size,
    ],
    ['Files of ladders', many(room.ladders.count, 'file', 'files'), room.ladders.size],
    [
      'Kept files',
      many(room.kept.count, 'file from elsewhere', 'files from elsewhere'),
      room.kept.size,
    ],
    [
      'Drawn and straightened',
      many(room.drawn.count, 'picture that was made here', 'pictures that were made here'),
      room.drawn.size,
    ],
    ['Everything else', 'benches, plans, scores, values', room.database],
    [
      'Backups',
      many(room.copies.count, 'copy, without pictures', 'copies, without pictures'),
      room.copies.size,
    ],
  ];
  const all = rows.reduce((sum, [, , size]) => sum + size, 0);
  const largest = Math.max(...rows.map(([, , size]) => size), 1);
  const long = (Object.keys(SHELVES) as Shelf[]).filter((shelf) => room.long[shelf].count > 0);
  return (
    <main className="mx-auto max-w-4xl px-4 py-8">
      <h1 className="sr-only">Room</h1>
      <p className="text-6xl leading-none font-semibold tracking-tight">{sized(all)}</p>
      <p className="mt-2 text-lg">in all; {sized(room.free)} are free on this disk.</p>
      <ul className="mt-6">
        {rows.map(([name, about, size]) => (
          <li
            key={name}
            className="border-base-300 grid items-center gap-x-4 border-t py-2 sm:grid-cols-[14rem_minmax(0,1fr)_6rem]"
          >
            <div>
              <b>{name}</b>
              <p className="soft">{about}</p>
            </div>
            <div className="bg-base-200 h-3 rounded-sm" aria-hidden>
              <div
                className="bg-primary h-3 rounded-sm"
                style={{ width: `${(100 * size) / largest}%` }}
              />
            </div>
            <p className="font-semibold tabular-nums sm:text-right">{sized(size)}</p>
          </li>
        ))}
      </ul>
      <Limit limit={limit} taken={room.pictures.size} setLimit={setLimit} />
      <section className="rule-above" aria-label="What can go">
        <h2>In the archive for longer than a year</h2>
        {long.length === 0 && <p>Nothing: what could be deleted for good is listed here.</p>}
        <ul>
          {long.map((shelf) => (
            <OneShelf key={shelf} shelf={shelf} part={room.long[shelf]} forget={forget} />
          ))}
        </ul>
        <NotHere right="change" />
        <p className="soft mt-2">
          Nothing is ever deleted by itself. What is deleted gives its room back once the copies of
          this week, which still have it, are gone.
        </p>
      </section>
    </main>
  );
}

function Limit({
  limit,
  taken,
  setLimit,
}: {
  limit: number | null;
  taken: number;
  setLimit: Props['setLimit'];
}) {
  const [wanted, setWanted] = useState(limit === null ? null : limit / 1e9);
  return (
    <section className="rule-above" aria-label="Room for pictures">
      <h2>Pictures may take</h2>
      <div className="flex flex-wrap items-center gap-3">
        <span className="w-28">
          <NumberBox
            label="Room for pictures"
            unit="GB"
            className="input w-full"
            value={wanted}
            min={0.05}
            onChange={setWanted}
            onEmpty={() => setWanted(null)}
          />
        </span>
        <span>GB</span>
        <ActButton needs="change" act={() => setLimit(wanted)}>
          Set
        </ActButton>
      </div>
      <p className="soft mt-2">
        {limit === null
          ? 'Empty: as much as the disk has.'
          : taken > limit
            ? 'They take more already: no picture is taken until there is room.'
            : `${sized(limit - taken)} are left for them.`}
      </p>
    </section>
  );
}

function OneShelf({ shelf, part, forget }: { shelf: Shelf; part: Part; forget: Props['forget'] }) {
  const [sure, setSure] = useState(false);
  const [one, more] = SHELVES[shelf];
  return (
    <li className="border-base-300 flex flex-wrap items-center gap-x-4 gap-y-1 border-t py-2">
      <span className="flex-1">
        {many(part.count, one, more)}
        {part.size > 0 && `, ${sized(part.size)}`}
      </span>
      {sure ? (
        <>
          <ActButton className="btn-main btn-sm" needs="change" act={() => forget(shelf)}>
            Delete for good
          </ActButton>
          <button type="button" className="btn-quiet btn-sm" onClick={() => setSure(false)}>
            Keep
          </button>
        </>
      ) : (
        <button type="button" className="btn-quiet btn-sm" onClick={() => setSure(true)}>
          Delete …
        </button>
      )}
    </li>
  );
}

const many = (count: number, one: string, more: string): string =>
  `${counted(count)} ${count === 1 ? one : more}`;

function sized(bytes: number): string {
  if (bytes >= 1e9) return `${short(bytes / 1e9, 1)} GB`;
  return bytes >= 1e5 ? `${short(bytes / 1e6, 1)} MB` : `${Math.ceil(bytes / 1000)} kB`;
}
