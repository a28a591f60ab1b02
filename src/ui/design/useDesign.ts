'use client';
/**
 * Two workers answer every wish: one draws the form at once, the other makes and proves the file. Each keeps one
 * wish under way; while it runs only the newest waits. A third works out what each input costs, once that is asked for.
 */

import * as Comlink from 'comlink';
import { problem } from '@/core/result';
import { useEffect, useRef, useState } from 'react';
import type { Bench } from '@/core/bench/bench';
import type { Costs } from '@/core/ladders/costs';
import type { DesignProblems, DesignView } from '@/core/view/designer';
import type { DraftView } from '@/core/view/draft';
import type { LayerView } from '@/core/view/layer-view';
import type { DesignWorker } from '@/workers/design.worker';
import { whenBroken } from '../common/worker';
import { Lane, type Open, type Wish } from '../common/lane';

export type Outcome = DesignView | DesignProblems;
type Spec = Record<string, number>;

/** Pixels a millimetre at which the drawing is made; it is scaled to the screen. */
const PX_PER_MM = 6;

type Remote = Comlink.Remote<DesignWorker>;

/** A worker of the designer; one that cannot even be loaded answers nothing, and is told instead of waited for. */
const openWorker: Open<Remote> = (broke) => {
  const worker = new Worker(new URL('../../workers/design.worker.ts', import.meta.url), {
    type: 'module',
  });
  whenBroken(worker, broke);
  return { remote: Comlink.wrap<DesignWorker>(worker), close: () => worker.terminate() };
};

type Lanes = {
  draft: Lane<Remote, Spec, DraftView | null>;
  file: Lane<Remote, Spec, Outcome>;
  costs: Lane<Remote, Spec, Costs | null>;
};

/** Costs take seconds to work out: they wait for this pause in the typing, ms. */
const PAUSE = 800;
type Shown = {
  outcome: Outcome | null;
  draft: (DraftView & { ok: true }) | null;
  /** The wish that each of them answers. */
  outcomeOf: number;
  draftOf: number;
  costs: Costs | null;
  costsOf: number;
};

export function useDesign(kind: string, bench: Bench, first: Spec) {
  const [shown, setShown] = useState<Shown>({
    outcome: null,
    draft: null,
    outcomeOf: 0,
    draftOf: 0,
    costs: null,
    costsOf: 0,
  });
  const [wished, setWished] = useState(1);
  const lanes = useRef<Lanes | null>(null);
  const newest = useRef<Wish<Spec>>({ spec: first, wish: 1 });
  const asked = useRef(false);
  const pause = useRef<ReturnType<typeof setTimeout>>(undefined);

  const want = () => {
    // Neither throws: what fails is told by the lane itself.
    void lanes.current?.draft.want(newest.current);
    void lanes.current?.file.want(newest.current);
    clearTimeout(pause.current);
    if (asked.current) later();
  };
  const later = () => {
    pause.current = setTimeout(() => void lanes.current?.costs.want(newest.current), PAUSE);
  };
  const failed = (error: Error, wish: number) =>
    setShown((now) => ({
      ...now,
      outcome: {
        ok: false,
        warnings: [],
        problems: [
          problem(
            'drawing',
            `It could not be worked out (${error.message}).`,
            'Change a number, or load the page again; nothing is lost.',
          ),
        ],
      },
      outcomeOf: wish,
    }));

  // The workers live as long as the screen.
  useEffect(() => {
    lanes.current = {
      draft: new Lane(
        openWorker,
        // eslint-disable-next-line @typescript-eslint/no-unnecessary-type-assertion -- Comlink tells a promise for each case
        (remote, spec) => remote.draft(kind, spec, bench, PX_PER_MM) as Promise<DraftView | null>,
        (draft, wish) =>
          setShown((now) => {
            if (!draft || now.outcomeOf >= wish) return now;
            if (draft.ok) return { ...now, draft, draftOf: wish };
            return { ...now, outcome: draft, outcomeOf: wish };
          }),
        // The file's own lane tells the same.
        () => undefined,
      ),
      file: new Lane(
        openWorker,
        // eslint-disable-next-line @typescript-eslint/no-unnecessary-type-assertion -- Comlink tells a promise for each case
        (remote, spec) => remote.design(kind, spec, bench, PX_PER_MM) as Promise<Outcome>,
        (outcome, wish) => setShown((now) => ({ ...now, outcome, outcomeOf: wish })),
        failed,
      ),
      costs: new Lane(
        openWorker,
        // eslint-disable-next-line @typescript-eslint/no-unnecessary-type-assertion -- Comlink tells a promise for each case
        (remote, spec) => remote.costs(kind, spec, bench) as Promise<Costs | null>,
        (costs, wish) => setShown((now) => ({ ...now, costs, costsOf: wish })),
        // A ladder that fails says so by its file.
        () => undefined,
      ),
    };
    want();
    return () => {
      lanes.current?.draft.close();
      lanes.current?.file.close();
      lanes.current?.costs.close();
      clearTimeout(pause.current);
      lanes.current = null;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `first` is where the screen begins
  }, []);

  return {
    outcome: shown.outcome,
    /** A drawing that is newer than the file; null when the file's own is as new. */
    draft: shown.draftOf > shown.outcomeOf ? shown.draft : null,
    /** What inputs cost; null until that is worked out for the last wish. */
    costs: shown.costsOf === wished ? shown.costs : null,
    /** Whether the file of the last wish is still being made. */
    late: shown.outcomeOf < wished,
    /** Designs this spec as soon as the workers are free. */
    wish(spec: Spec) {
      newest.current = { spec, wish: newest.current.wish + 1 };
      setWished(newest.current.wish);
      want();
    },
    /** From now on, or no more, costs are worked out with every wish. */
    askCosts(wanted: boolean) {
      if (wanted === asked.current) return;
      asked.current = wanted;
      clearTimeout(pause.current);
      if (wanted) later();
    },
    layer: async (index: number): Promise<LayerView | null> =>
      (await lanes.current?.file.remote.layer(index)) ?? null,
  };
}
