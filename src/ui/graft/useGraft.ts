'use client';
/** Holds the worker that has a sliced file open, and asks it for what each wish would come to: the newest first. */

import * as Comlink from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { Bench } from '@/core/bench/bench';
import type { Opened, Tried } from '@/core/graft/workbench';
import type { Wish } from '@/core/graft/recipe';
import { problem, type Problem } from '@/core/result';
import type { GraftWorker } from '@/workers/graft.worker';
import { orBroken } from '../common/worker';

export type GraftState =
  | { phase: 'reading'; share: number }
  | { phase: 'open'; opened: Opened }
  | { phase: 'stopped' }
  | { phase: 'failed'; problems: Problem[] };

export function useGraft(keptId: number, name: string, bench: Bench) {
  const [state, setState] = useState<GraftState>({ phase: 'reading', share: 0 });
  const [tried, setTried] = useState<Tried | null>(null);
  const [attempt, setAttempt] = useState(0);
  const worker = useRef<{ worker: Worker; remote: Comlink.Remote<GraftWorker> } | null>(null);
  const waiting = useRef<Wish | null>(null);
  const busy = useRef(false);

  useEffect(() => {
    const leaving = new AbortController();
    const failed = (error: unknown) => {
      if (leaving.signal.aborted) return;
      const why = error instanceof Error ? error.message : 'memory ran out';
      setState({
        phase: 'failed',
        problems: [problem(name, `It could not be read (${why}).`, 'Load the page again.')],
      });
    };
    const open = async () => {
      const got = await fetch(`/kept/${keptId}`, { signal: leaving.signal });
      if (!got.ok) throw new Error(`the program answered ${got.status}`);
      const source = await got.blob();
      const made = new Worker(new URL('../../workers/graft.worker.ts', import.meta.url), {
        type: 'module',
      });
      leaving.signal.addEventListener('abort', () => made.terminate());
      const remote = Comlink.wrap<GraftWorker>(made);
      worker.current = { worker: made, remote };
      const progress = (share: number) => {
        if (!leaving.signal.aborted) setState({ phase: 'reading', share });
      };
      const opened = await orBroken(
        made,
        remote.open(name, source, bench, Comlink.proxy(progress)),
      );
      if (!leaving.signal.aborted) setState({ phase: 'open', opened });
    };
    open().catch(failed);
    return () => {
      leaving.abort();
      worker.current = null;
      busy.current = false;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the file does not change under the screen
  }, [keptId, attempt]);

  const ask = useCallback(async (wish: Wish) => {
    waiting.current = wish;
    if (busy.current) return;
    busy.current = true;
    try {
      while (waiting.current && worker.current) {
        const now: Wish = waiting.current;
        waiting.current = null;
        const { worker: one, remote } = worker.current;
        setTried(await orBroken(one, remote.tried(now)));
      }
    } catch {
      // What cannot be tried is told when it is made; the drawing stays as it was.
    } finally {
      busy.current = false;
    }
  }, []);

  return {
    state,
    tried,
    ask,
    stop: () => {
      worker.current?.worker.terminate();
      setState({ phase: 'stopped' });
    },
    again: () => {
      setState({ phase: 'reading', share: 0 });
      setAttempt((now) => now + 1);
    },
  };
}
