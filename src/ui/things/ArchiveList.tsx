'use client';
// Everything that was archived, newest first, with the way back.
import { ActButton, type Outcome } from '../common/ActButton';
import Link from 'next/link';
import { age } from '../common/format';
import { ShelfSketch } from '../common/Sketches';

/** What it is, as it is called in words too. */
type Shelf =
  'machine' | 'filament' | 'bench' | 'ladder' | 'print' | 'reading' | 'file' | 'photo' | 'shake';
/** Where it is called otherwise than its shelf. */
const SHELF_WORDS: Partial<Record<Shelf, string>> = { photo: 'picture', shake: 'shake along' };
type Row = { shelf: Shelf; id: number; name: string; where: string | null; at: string };
type Props = {
  rows: readonly Row[];
  nowMs: number;
  archive: (shelf: Shelf, id: number, away: boolean) => Promise<Outcome>;
};

export function ArchiveList({ rows, nowMs, archive }: Props) {
  if (rows.length === 0)
    return (
      <div className="mt-4 space-y-6">
        <p className="text-lg">
          Nothing is archived. What you archive elsewhere waits here and can be brought back.
        </p>
        <ShelfSketch />
        <p>
          Machines, spools, benches, ladders, prints, readings, pictures and records have “Archive”
          beside them. Nothing is deleted by itself; what has been here for a year is offered for
          deletion under{' '}
          <Link href="/things/room" className="inline-block min-h-6 underline">
            Room
          </Link>
          .
        </p>
      </div>
    );
  return (
    <ul className="divide-base-300 mt-4 divide-y">
      {rows.map(({ shelf, id, name, where, at }) => (
        <li
          key={`${shelf} ${id}`}
          className="flex min-h-14 flex-wrap items-center gap-x-4 gap-y-1 py-1"
        >
          <div className="min-w-0 flex-1">
            <p className="font-medium [overflow-wrap:anywhere]">
              <bdi>{name}</bdi>
            </p>
            <p className="soft [overflow-wrap:anywhere]">
              {SHELF_WORDS[shelf] ?? shelf} {shelf === 'print' || shelf === 'reading' ? id : ''}
              {where && ` · ${where}`} · {age(at, nowMs)}
            </p>
          </div>
          <ActButton
            className="btn-quiet btn-sm"
            needs="change"
            label={`Bring back ${SHELF_WORDS[shelf] ?? shelf} ${name}`}
            act={() => archive(shelf, id, false)}
          >
            Bring back
          </ActButton>
        </li>
      ))}
    </ul>
  );
}
