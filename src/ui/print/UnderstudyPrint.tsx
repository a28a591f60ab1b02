'use client';
// Printing without a printer: the simulated machine that ships with the product, always marked as such.
import * as Comlink from 'comlink';
import { useRouter } from 'next/navigation';
import Link from 'next/link';
import { useCallback, useEffect, useRef, useState, type ReactNode } from 'react';
import type { Plan } from '@/core/plan/plan';
import { problem, type Problem } from '@/core/result';
import type { UnderstudyWorker } from '@/workers/understudy.worker';
import { afterNoAnswer } from '../common/attempt';
import { lastPress } from '../common/own-fetch';
import { Problems } from '../common/Problems';
import { orBroken } from '../common/worker';
import { useRunning } from './useRunning';

type Ready = { name: string; about: string; seed: number };
type Props = {
  ladderId: number;
  fileId: number;
  plan: Plan;
  ready: readonly Ready[];
  colours: readonly string[];
  /** The first print of somebody who tries the program out comes scored half. */
  half: boolean;
};

const SURPRISE = 'surprise';
/** Largest seed that is drawn for a surprise. */
const MOST_SEED = 1_000_000;

export function UnderstudyPrint({ ladderId, fileId, plan, ready, colours, half }: Props) {
  const router = useRouter();
  /** Ends the print that is under way, whatever it waits for. */
  const underway = useRef<AbortController | null>(null);
  const [which, setWhich] = useState(String(ready[0]!.seed));
  const [colour, setColour] = useState(colours[0]!);
  const [share, setShare] = useState<number | null>(null);
  const [keeping, setKeeping] = useState(false);
  const [problems, setProblems] = useState<Problem[]>([]);

  const running = useRunning(fileId, () => {
    // What is being kept is kept whole.
    if (keeping) return false;
    underway.current?.abort();
    setShare(null);
    return true;
  });
  const { over } = running;
  const end = useCallback(() => {
    underway.current?.abort();
    over(false);
  }, [over]);
  const stop = () => {
    end();
    setShare(null);
  };
  useEffect(() => end, [end]);

  const run = async () => {
    end();
    const { signal } = (underway.current = new AbortController());
    setProblems([]);
    setShare(0);
    running.tell(0);
    const seed = which === SURPRISE ? 1 + Math.floor(Math.random() * MOST_SEED) : Number(which);
    const name = ready.find((one) => one.seed === seed)?.name ?? 'Mystery machine';
    let sent = false;
    let printing = true;
    try {
      const file = await fetch(`/files/${fileId}`, { signal });
      if (!file.ok) throw new Error(`its file did not come: ${file.status}`);
      const text = await file.text();
      const worker = new Worker(new URL('../../workers/understudy.worker.ts', import.meta.url), {
        type: 'module',
      });
      signal.addEventListener('abort', () => worker.terminate());
      const { failed, png, measured, seen } = await orBroken(
        worker,
        Comlink.wrap<UnderstudyWorker>(worker).print(
          text,
          plan.bench,
          plan,
          seed,
          colour,
          half,
          Comlink.proxy((at: number) => {
            // The last of it may come after the answer.
            if (signal.aborted || !printing) return;
            setShare(at);
            running.tell(at);
          }),
        ),
      );
      printing = false;
      worker.terminate();
      if (signal.aborted) return;
      if (failed || !png) {
        stop();
        setProblems([problem('print', failed ?? 'Nothing came out.', 'Print it again.')]);
        return;
      }
      // From here on it is kept whole: there is nothing left to stop.
      setKeeping(true);
      sent = true;
      const body = new FormData();
      body.set('simulated', JSON.stringify({ name, seed }));
      body.set('picture', png);
      body.set('measured', JSON.stringify(measured));
      body.set('seen', JSON.stringify(seen));
      const answer = (await (
        await fetch(`/understudy?file=${fileId}`, { method: 'POST', body })
      ).json()) as { href: string } | { problems: Problem[] };
      over('href' in answer);
      if ('href' in answer) return signal.aborted ? undefined : router.push(answer.href);
      setProblems(answer.problems);
    } catch (error) {
      if (signal.aborted) return;
      const lost = sent && error instanceof TypeError;
      setProblems([
        lost
          ? await afterNoAnswer(lastPress())
          : problem(
              'print',
              `It could not be printed and kept (${(error as Error).message}).`,
              'Try once more.',
            ),
      ]);
    }
    setKeeping(false);
    stop();
  };

  return (
    <section className="rule-above" aria-label="Print on the understudy">
      <h2>
        {share === null && typeof running.elsewhere !== 'number'
          ? 'No printer at hand: print on the understudy'
          : 'On the understudy'}
      </h2>
      {share === null && running.elsewhere === 'finished' && (
        <p role="status" className="mb-3 flex flex-wrap items-center gap-x-4 text-lg">
          The print is finished.
          <Link className="btn-quiet" href={`/ladder/${ladderId}/read`}>
            Score it
          </Link>
        </p>
      )}
      {share === null && typeof running.elsewhere === 'number' ? (
        <Elsewhere at={running.elsewhere} stop={running.stopElsewhere} />
      ) : share === null ? (
        <form
          className="flex flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            void run();
          }}
        >
          <label className="min-w-0 flex-1 basis-56">
            <span className="soft mb-1 block">A simulated machine of this kind</span>
            <select
              className="select w-full"
              value={which}
              onChange={({ target }) => setWhich(target.value)}
            >
              {ready.map(({ name, about, seed }) => (
                <option key={seed} value={seed} title={about}>
                  {name}
                </option>
              ))}
              <option value={SURPRISE}>Mystery machine: a new one each time</option>
            </select>
          </label>
          <label>
            <span className="soft mb-1 block">Filament</span>
            <select
              className="select w-auto"
              value={colour}
              onChange={({ target }) => setColour(target.value)}
            >
              {colours.map((one) => (
                <option key={one}>{one}</option>
              ))}
            </select>
          </label>
          <button type="submit" className="btn-quiet">
            Print on the understudy
          </button>
        </form>
      ) : (
        <div role="status">
          <Progress share={share}>
            {keeping ? (
              <span className="soft">Keeping it</span>
            ) : (
              <button type="button" className="btn-quiet" onClick={stop}>
                Stop
              </button>
            )}
          </Progress>
        </div>
      )}
      <Problems problems={problems} />
      <p className="soft mt-2">
        {ready.find(({ seed }) => String(seed) === which)?.about ??
          'A machine with secrets of its own'}
        . It takes the file as a machine would and shows what the print would look like. Its values
        are hidden until you have found yours, and are never mixed with real prints.
      </p>
    </section>
  );
}

type ElsewhereProps = { at: number; stop: () => void };

/** The print as it is seen on a screen that did not begin it. */
function Elsewhere({ at, stop }: ElsewhereProps) {
  return (
    <div role="status">
      <p className="mb-2 text-lg">Printing on another screen: {Math.round(at * 100)} %.</p>
      <Progress share={at}>
        <button type="button" className="btn-quiet" onClick={stop}>
          Stop
        </button>
      </Progress>
    </div>
  );
}

/** How far a print is, and what can be done about it. */
function Progress({ share, children }: { share: number; children: ReactNode }) {
  return (
    <div className="flex items-center gap-4">
      <progress
        className="progress progress-primary flex-1"
        value={share}
        max={1}
        aria-label="Printing progress"
      />
      {children}
    </div>
  );
}
