'use client';
// The archive, and everything as one file: out, and in again.
import Link from 'next/link';
import { useEffect, useRef, useState } from 'react';
import { short } from '@/core/numbers';
import type { Problem } from '@/core/result';
import { afterNoAnswer } from '../common/attempt';
import { lastPress } from '../common/own-fetch';
import { Problems } from '../common/Problems';
import { NotHere, useHere } from '../common/Rights';
import { counted } from '../common/format';

type Told = {
  benches: number;
  prints: number;
  pictures: number;
  newest: string | null;
  missing: number;
};
type Answer = { href: string } | { name: string; told: Told } | { problems: Problem[] };

const EVERYTHING = '/everything';

export function Everything() {
  const may = useHere().rights.includes('change');
  const input = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState<File | null>(null);
  const [busy, setBusy] = useState(false);
  const [problems, setProblems] = useState<Problem[]>([]);
  const [proved, setProved] = useState<{ name: string; told: Told } | null>(null);
  const forget = () => {
    setFile(null);
    setProved(null);
    if (input.current) input.current.value = '';
  };
  const ask = async (query: string, body: File | null) => {
    setBusy(true);
    setProblems([]);
    try {
      const got = await fetch(`${EVERYTHING}?${query}`, { method: 'POST', body });
      const answer = (await got.json()) as Answer;
      if ('href' in answer) return window.location.assign(answer.href);
      if ('told' in answer) return setProved(answer);
      setProblems(answer.problems);
      forget();
    } catch {
      setProblems([await afterNoAnswer(lastPress())]);
      forget();
    } finally {
      setBusy(false);
    }
  };
  const empty = proved?.told.benches === 0;
  return (
    <section className="rule-above col-span-full">
      <h2>Archive and copies</h2>
      <div className="flex flex-wrap items-center gap-3">
        <Link href="/archive" className="btn-quiet">
          Archive
        </Link>
        <Link href="/things/room" className="btn-quiet">
          Room
        </Link>
        {may && (
          <>
            <a href={EVERYTHING} download className="btn-quiet">
              Export everything
            </a>
            <label className="btn-quiet has-focus-visible:outline-primary has-focus-visible:outline-3">
              Import …
              <input
                ref={input}
                type="file"
                accept=".ash"
                className="sr-only"
                aria-label="Exported file"
                onChange={({ target }) => {
                  const [chosen] = target.files ?? [];
                  if (!chosen) return;
                  setFile(chosen);
                  setProved(null);
                  void ask('look', chosen);
                }}
              />
            </label>
          </>
        )}
      </div>
      {may && <HowFar asks={busy} />}
      {file && proved && (
        <div role="alertdialog" aria-label="Import" className="border-warning my-3 border-l-4 pl-4">
          <p>
            <b className="break-all">{file.name}</b> is whole: {heldIn(proved.told)}. It replaces
            everything stored here: machines, filaments, ladders, scores, values. What is here now
            is backed up first.
          </p>
          {proved.told.missing > 0 && (
            <p className="mt-1">
              {proved.told.missing} pictures or files were missing already when it was made.
            </p>
          )}
          {empty && (
            <p className="mt-1">It holds no bench: nothing of what is here would be left.</p>
          )}
          <div className="mt-2 flex flex-wrap gap-2">
            <button
              type="button"
              className="btn-main"
              disabled={busy}
              onClick={() => void ask(`take=${proved.name}${empty ? '&empty' : ''}`, null)}
            >
              {empty ? 'Replace everything with nothing' : 'Replace everything'}
            </button>
            <button type="button" className="btn-quiet" disabled={busy} onClick={forget}>
              Cancel
            </button>
          </div>
        </div>
      )}
      <NotHere right="change" />
      <Problems problems={problems} />
      <p className="soft mt-3">
        A backup is made every day and kept for a week, in the folder “backups” beside the database.
        <code className="ml-1">npm run restore</code> lists them, and what stood before an import,
        and goes back to one.
      </p>
    </section>
  );
}

function heldIn({ benches, prints, pictures, newest }: Told): string {
  const many = (count: number, one: string, more: string) =>
    `${counted(count)} ${count === 1 ? one : more}`;
  const last = newest === null ? '' : `, the newest print of ${newest.slice(0, 10)}`;
  return `${many(benches, 'bench', 'benches')}, ${many(prints, 'print', 'prints')}, ${many(pictures, 'picture', 'pictures')}${last}`;
}

type Far =
  | { doing: 'nothing' }
  | { doing: 'export'; bytes: number; ofBytes: number; rows: number; ofRows: number }
  | { doing: 'arriving' | 'unpacking' | 'reading' | 'replacing'; share: number };

const WORDS = {
  arriving: 'The file is coming in',
  unpacking: 'It is unpacked, and every sum held against it',
  reading: 'Every row is read',
  replacing: 'What stands is backed up, then replaced',
};
const LOOK_MS = 700;
/** Without anything under way it is looked at this often, ms: an export is begun by a link. */
const SELDOM_MS = 4000;

/** How far an import or an export is, with a way to stop an import. */
function HowFar({ asks }: { asks: boolean }) {
  const [far, setFar] = useState<Far>({ doing: 'nothing' });
  const goes = far.doing !== 'nothing';
  useEffect(() => {
    let gone = false;
    const look = async () => {
      const got = await fetch(`${EVERYTHING}?far`, { cache: 'no-store' }).catch(() => null);
      const said = got?.ok ? ((await got.json()) as Far) : null;
      if (!gone && said) setFar(said);
    };
    void look();
    const timer = setInterval(
      () => document.visibilityState === 'visible' && void look(),
      asks || goes ? LOOK_MS : SELDOM_MS,
    );
    return () => {
      gone = true;
      clearInterval(timer);
    };
  }, [asks, goes]);
  if (far.doing === 'nothing') return null;
  const exports = far.doing === 'export';
  const share = exports
    ? (far.rows + far.bytes / 1000) / Math.max(1, far.ofRows + far.ofBytes / 1000)
    : far.share;
  return (
    <div className="my-3 max-w-xl" role="status">
      <p>
        {exports
          ? `Exporting: ${megabytes(far.bytes)} of ${megabytes(far.ofBytes)} of pictures and files`
          : WORDS[far.doing]}
        {far.doing === 'replacing' ? ' …' : `, ${short(100 * share, 0)} %`}
      </p>
      <div className="flex items-center gap-4">
        <progress
          className="progress progress-primary flex-1"
          value={far.doing === 'replacing' ? undefined : share}
          max={1}
        />
        {!exports && far.doing !== 'replacing' && (
          <button
            type="button"
            className="btn-quiet btn-sm"
            onClick={() => void fetch(`${EVERYTHING}?stop`, { method: 'POST' })}
          >
            Stop
          </button>
        )}
      </div>
    </div>
  );
}

const megabytes = (bytes: number): string => `${short(bytes / 1e6, 0)} MB`;
