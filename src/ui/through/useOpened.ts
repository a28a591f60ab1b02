'use client';
/** Holds the worker that has a file open: reading it, stopping, asking. */

import * as Comlink from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { Bench } from '@/core/bench/bench';
import { short } from '@/core/numbers';
import { problem, type Problem } from '@/core/result';
import { LARGEST_OPENED, type Overview } from '@/core/view/opened';
import type { FileWorker } from '@/workers/file.worker';

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
    worker.current = new Worker(new URL('../../workers/file.worker.ts', import.meta.url), {
      type: 'module',
    });
    const remote = Comlink.wrap<FileWorker>(worker.current);
    const progress = (share: number) =>
      turn.current === mine && setState({ phase: 'reading', name, share });
    try {
      const overview = await remote.open(source, bench, Comlink.proxy(progress));
      if (turn.current === mine)
        setState({ phase: 'open', name, source, overview: overview as Overview, remote });
    } catch (error) {
      if (turn.current === mine)
        setState({
          phase: 'failed',
          problems: [
            problem(
              name,
              `It could not be read (${error instanceof Error ? error.message : 'memory ran out'}).`,
              'Try again; if it stays so, take a smaller file.',
            ),
          ],
        });
    }
  };

  return {
    state,
    open,
    /** Looks at the open file again, for another bench. */
    async again(bench: Bench) {
      if (state.phase !== 'open') return;
      const mine = turn.current;
      const overview = await state.remote.again(bench);
      if (turn.current === mine) setState({ ...state, overview: overview as Overview });
    },
    /** Ends whatever runs; nothing is kept of it. */
    stop() {
      end();
      setState({ phase: 'none' });
    },
    fail: (problems: Problem[]) => setState({ phase: 'failed', problems }),
  };
}
