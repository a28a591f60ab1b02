'use client';
// Any file, looked through before it is sent: file check, picture, commands by height, layers, text.
import { useEffect, useState } from 'react';
import type { Bench } from '@/core/bench/bench';
import { problem } from '@/core/result';
import { Problems } from '../common/Problems';
import { ReadingProgress } from '../common/ReadingProgress';
import { OpenedFile, type BenchForms, type Choice } from './OpenedFile';
import { OpenHere } from './OpenHere';
import { useDrop } from './useDrop';
import { useOpened } from './useOpened';

/** A bench by its id; null where it did not come. */
const benchOf = (id: number): Promise<Bench | null> =>
  fetch(`/benches/${id}`, { cache: 'no-store' })
    .then((got) => (got.ok ? (got.json() as Promise<Bench>) : null))
    .catch(() => null);

type Props = BenchForms & {
  choices: Choice[];
  chosen: number;
  /** The bench that is chosen at first. */
  bench: Bench;
  /** A file that the program has, opened at once. */
  start: { url: string; name: string; line: number | null; scored: boolean } | null;
};

export function InspectScreen({ choices, chosen, bench: first, start, ...forms }: Props) {
  const [at, setAt] = useState(Math.max(0, Math.min(chosen, choices.length - 1)));
  const { state, open, again, stop, fail } = useOpened();
  const [bench, setBench] = useState(first);
  const choice = choices[at]!;
  const choose = async (next: number) => {
    const { id, title, bench: known } = choices[next]!;
    const found = known ?? (await benchOf(id!));
    if (!found)
      return fail([
        problem(title, 'This bench could not be loaded.', 'Choose it once more, or another.'),
      ]);
    setAt(next);
    setBench(found);
    void again(found);
  };
  const over = useDrop((file) => void open(file, file.name, bench));

  // A file named in the address is fetched once, when the screen opens.
  useEffect(() => {
    if (!start) return;
    const leaving = new AbortController();
    fetch(start.url, { signal: leaving.signal })
      .then(async (got) => {
        if (!got.ok) throw new Error(`the program answered ${got.status}`);
        await open(await got.blob(), start.name, bench);
      })
      .catch((error: Error) => {
        if (leaving.signal.aborted) return;
        fail([
          problem(
            start.name,
            `It could not be fetched (${error.message}).`,
            'Load the page again.',
          ),
        ]);
      });
    return () => leaving.abort();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the address does not change under the screen
  }, []);

  const picker = (
    <label className="flex min-w-0 items-center gap-2">
      <span className="soft">Check against</span>
      <select
        className="select select-sm w-auto min-w-0"
        aria-label="Check against"
        value={at}
        onChange={({ target }) => {
          void choose(Number(target.value));
        }}
      >
        {choices.map(({ title }, i) => (
          <option key={i} value={i}>
            {title}
          </option>
        ))}
      </select>
    </label>
  );
  if (state.phase === 'open')
    return (
      <OpenedFile
        key={state.name + state.source.size}
        state={state}
        choice={choice}
        bench={bench}
        scored={start?.scored ?? false}
        picker={picker}
        startLine={start?.line ?? null}
        own={start !== null && state.name === start.name}
        close={stop}
        {...forms}
      />
    );
  return (
    <main className="mx-auto max-w-3xl px-4 py-8">
      <h1>Inspect a file</h1>
      <p className="mt-2 mb-4">
        What it heats, moves, changes and leaves on, every move, and how long it takes: before you
        send it to a machine.
      </p>
      {state.phase === 'reading' || (start && state.phase === 'none') ? (
        <ReadingProgress
          title={state.phase === 'reading' ? state.name : start!.name}
          share={state.phase === 'reading' ? state.share : 0}
          stop={stop}
        />
      ) : (
        <>
          {state.phase === 'failed' && <Problems problems={state.problems} />}
          <div className="mb-3">{picker}</div>
          <OpenHere over={over} onFile={(file) => void open(file, file.name, bench)} />
        </>
      )}
    </main>
  );
}
