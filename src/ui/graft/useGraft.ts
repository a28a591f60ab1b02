'use client';
/** Holds the worker that has a sliced file open, and asks it for what each wish would come to: the newest first. */

import * as Comlink from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { Bench } from '@/core/bench/bench';
import type { Opened, Tried } from '@/core/graft/workbench';
import type { Wish } from '@/core/graft/recipe';
import { problem, type Problem } from '@/core/result';
import type { GraftWorker } from '@/workers/graft.worker';
import { begunOnceMore, orBroken } from '../common/worker';
import { Lane } from '../common/lane';

export type GraftState =
  | { phase: 'reading'; share: number }
  | { phase: 'open'; opened: Opened }
  | { phase: 'stopped' }
  | { phase: 'failed'; problems: Problem[] };

type Remote = Comlink.Remote<GraftWorker>;
type Running = { worker: Worker; remote: Remote };

export function useGraft(keptId: number, name: string, bench: Bench) {
  const [state, setState] = useState<GraftState>({ phase: 'reading', share: 0 });
  const [tried, setTried] = useState<Tried | null>(null);
  const [attempt, setAttempt] = useState(0);
  const lane = useRef<Lane<Running, Wish, Tried> | null>(null);
  const leaving = useRef(new AbortController());

  useEffect(() => {
    const mine = (leaving.current = new AbortController());
    const { signal } = mine;
    const failed = (error: Error) => {
      if (signal.aborted) return;
      setState({
        phase: 'failed',
        problems: [
          problem(
            name,
            `It could not be read (${error.message}).`,
            'Read it again, or load the page again.',
          ),
        ],
      });
    };
    let running: Running | null = null;
    const end = () => running?.worker.terminate();
    signal.addEventListener('abort', end);
    const begin = async (source: Blob, tell: () => void) => {
      signal.throwIfAborted();
      end();
      const worker = new Worker(new URL('../../workers/graft.worker.ts', import.meta.url), {
        type: 'module',
      });
      const remote = Comlink.wrap<GraftWorker>(worker);
      running = { worker, remote };
      return orBroken(worker, remote.open(name, source, bench, Comlink.proxy(tell)));
    };
    const open = async () => {
      const got = await fetch(`/kept/${keptId}`, { signal });
      if (!got.ok) throw new Error(`the program answered ${got.status}`);
      const source = await got.blob();
      const opened = await begunOnceMore(
        (tell) => begin(source, tell),
        (share) => {
          if (!signal.aborted) setState({ phase: 'reading', share });
        },
      );
      if (signal.aborted) return;
      lane.current = new Lane(
        () => ({ remote: running!, close: end }),
        ({ worker, remote }, wish) => orBroken(worker, remote.tried(wish)),
        (found) => setTried(found),
        failed,
      );
      setState({ phase: 'open', opened });
    };
    open().catch(failed);
    return () => {
      mine.abort();
      lane.current = null;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the file does not change under the screen
  }, [keptId, attempt]);

  return {
    state,
    tried,
    /** Never rejects: what fails is told by the state. */
    ask: useCallback((wish: Wish) => void lane.current?.want({ spec: wish, wish: 0 }), []),
    stop: () => {
      leaving.current.abort();
      setState({ phase: 'stopped' });
    },
    again: () => {
      setState({ phase: 'reading', share: 0 });
      setAttempt((now) => now + 1);
    },
  };
}
