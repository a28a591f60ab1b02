'use client';
// The archive, and everything as one file: out, and in again.
import Link from 'next/link';
import { useRef, useState } from 'react';
import type { Problem } from '@/core/result';
import { afterNoAnswer } from '../common/attempt';
import { lastPress } from '../common/own-fetch';
import { Problems } from '../common/Problems';
import { NotHere, useHere } from '../common/Rights';

export function Everything() {
  const may = useHere().rights.includes('change');
  const input = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState<File | null>(null);
  const [busy, setBusy] = useState(false);
  const [problems, setProblems] = useState<Problem[]>([]);
  /** It holds no bench: replacing everything with nothing is asked for once more. */
  const [empty, setEmpty] = useState(false);
  const take = async () => {
    if (!file) return;
    setBusy(true);
    setProblems([]);
    try {
      const got = await fetch(`/everything${empty ? '?empty' : ''}`, {
        method: 'POST',
        body: file,
      });
      const answer = (await got.json()) as { href: string } | { problems: Problem[] };
      if ('href' in answer) return window.location.assign(answer.href);
      setProblems(answer.problems);
      if (answer.problems[0]?.where === 'empty') return setEmpty(true);
      forget();
    } catch {
      setProblems([await afterNoAnswer(lastPress())]);
      forget();
    } finally {
      setBusy(false);
    }
  };
  const forget = () => {
    setFile(null);
    setEmpty(false);
    if (input.current) input.current.value = '';
  };
  return (
    <section className="rule-above col-span-full">
      <h2>Archive and copies</h2>
      <div className="flex flex-wrap items-center gap-3">
        <Link href="/archive" className="btn-quiet">
          Archive
        </Link>
        {may && (
          <>
            <a href="/everything" download className="btn-quiet">
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
                onChange={({ target }) => setFile(target.files?.[0] ?? null)}
              />
            </label>
          </>
        )}
      </div>
      {file && (
        <div role="alertdialog" aria-label="Import" className="border-warning my-3 border-l-4 pl-4">
          <p>
            <b className="break-all">{file.name}</b> replaces everything stored here: machines,
            filaments, ladders, scores, values. What is here now is backed up first.
          </p>
          <div className="mt-2 flex gap-2">
            <button type="button" className="btn-main" disabled={busy} onClick={() => void take()}>
              {busy
                ? 'Importing …'
                : empty
                  ? 'Replace everything with nothing'
                  : 'Replace everything'}
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
