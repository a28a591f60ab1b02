'use client';
/** Holds the worker that has a file open: reading it, stopping, asking. */

import * as Comlink from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { Bench } from '@/core/bench/bench';
import { short } from '@/core/numbers';
import { problem, type Problem } from '@/core/result';
import { LARGEST_OPENED, type Overview } from '@/core/view/opened';
import type { FileWorker } from '@/workers/file.worker';
import { begunOnceMore, orBroken } from '../common/worker';

export type Remote = Comlink.Remote<FileWorker>;

export type OpenState =
  | { phase: 'none' }
  | { phase: 'reading'; name: string; share: number }
  | { phase: 'open'; name: string; source: Blob; overview: Overview; remote: Remote }
  | { phase: 'failed'; problems: Problem[] };

const MB = 1024 * 1024;

export function useOpened() {
  const [state, setState] = useState<OpenState>({ phase: 'none' });
  const worker = useRef<Worker | null>(null);
  /** Counts openings: answers to an older one are dropped. */
  const turn = useRef(0);

  const end = () => {
    worker.current?.terminate();
    worker.current = null;
    turn.current++;
  };
  useEffect(() => end, []);

  const unread = (error: unknown, name: string, mine: number) => {
    if (turn.current !== mine) return;
    const why = error instanceof Error ? error.message : 'memory ran out';
    setState({
      phase: 'failed',
      problems: [
        problem(
          name,
          `It could not be read (${why}).`,
          'Try again; if it stays so, take a smaller file.',
        ),
      ],
    });
  };

  const open = async (source: Blob, name: string, bench: Bench) => {
    end();
    if (source.size > LARGEST_OPENED) {
      const size = short(source.size / MB, 0);
      setState({
        phase: 'failed',
        problems: [
          problem(
            name,
            `The file has ${size} MB; up to ${LARGEST_OPENED / MB} MB can be opened.`,
            'Slice it in parts, or thin out its strokes.',
          ),
        ],
      });
      return;
    }
    const mine = turn.current;
    setState({ phase: 'reading', name, share: 0 });
    const begin = (tell: () => void) => {
      // Whoever stopped meanwhile wants no other worker.
      if (turn.current !== mine) return new Promise<never>(() => undefined);
      worker.current?.terminate();
      const reader = new Worker(new URL('../../workers/file.worker.ts', import.meta.url), {
        type: 'module',
      });
      worker.current = reader;
      const remote = Comlink.wrap<FileWorker>(reader);
      const asked = remote.open(source, bench, Comlink.proxy(tell));
      return orBroken(reader, asked).then((overview) => ({ overview, remote }));
    };
    try {
      const { overview, remote } = await begunOnceMore(begin, (share) => {
        if (turn.current === mine) setState({ phase: 'reading', name, share });
      });
      if (turn.current === mine) setState({ phase: 'open', name, source, overview, remote });
    } catch (error) {
      unread(error, name, mine);
    }
  };

  return {
    state,
    open,
    /** Looks at the open file again, for another bench. */
    async again(bench: Bench) {
      if (state.phase !== 'open' || !worker.current) return;
      const mine = turn.current;
      try {
        const overview = await orBroken(worker.current, state.remote.again(bench));
        if (turn.current === mine) setState({ ...state, overview: overview });
      } catch (error) {
        unread(error, state.name, mine);
      }
    },
    /** Ends whatever runs; nothing is kept of it. */
    stop() {
      end();
      setState({ phase: 'none' });
    },
    fail: (problems: Problem[]) => setState({ phase: 'failed', problems }),
  };
}
