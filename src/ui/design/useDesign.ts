'use client';
/** Keeps one design under way at a time; while it runs only the newest wish waits. */

import * as Comlink from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { Bench } from '@/core/bench/bench';
import type { DesignProblems, DesignView } from '@/core/view/designer';
import type { LayerView } from '@/core/view/layer-view';
import type { DesignWorker } from '@/workers/design.worker';

export type Outcome = DesignView | DesignProblems;

/** Pixels a millimetre at which the drawing is made; it is scaled to the screen. */
const PX_PER_MM = 6;

export function useDesign(kind: string, bench: Bench, first: Record<string, number>) {
  const [outcome, setOutcome] = useState<Outcome | null>(null);
  const remote = useRef<Comlink.Remote<DesignWorker> | null>(null);
  const waiting = useRef<Record<string, number> | null>(null);
  const running = useRef(false);

  const run = async () => {
    if (running.current || !remote.current) return;
    running.current = true;
    while (waiting.current) {
      const spec = waiting.current;
      waiting.current = null;
      setOutcome((await remote.current.design(kind, spec, bench, PX_PER_MM)) as Outcome);
    }
    running.current = false;
  };

  // The worker lives as long as the screen.
  useEffect(() => {
    const worker = new Worker(new URL('../../workers/design.worker.ts', import.meta.url), {
      type: 'module',
    });
    remote.current = Comlink.wrap<DesignWorker>(worker);
    running.current = false;
    waiting.current ??= first;
    void run();
    return () => {
      worker.terminate();
      remote.current = null;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `first` is where the screen begins
  }, []);

  return {
    outcome,
    /** Designs this spec as soon as the worker is free. */
    wish(spec: Record<string, number>) {
      waiting.current = spec;
      void run();
    },
    layer: async (index: number): Promise<LayerView | null> =>
      (await remote.current?.layer(index)) ?? null,
  };
}
