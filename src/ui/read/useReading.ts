'use client';
/** State of one reading: every tap is shown at once, and is an act that waits in the browser until it is kept. */

import { useRouter } from 'next/navigation';
import { useEffect } from 'react';
import type { Criterion } from '@/core/criteria';
import type { Score } from '@/core/reading/types';
import { outbox } from '../common/browser-outbox';
import { tabName } from '../common/names';
import { useKept } from '../common/useKept';

export type Tap = {
  id: string;
  rung: number;
  criterion: Criterion;
  score: Score | null;
  /** Taken back since; told once. */
  undone?: true;
};
export type Taps = Record<string, Score | null>;
export type Measured = Record<string, number[]>;
/** A reading as the program keeps it. */
export type KeptReading = { revision: number; acts: Tap[]; measured: Measured };
type Act = Tap | { id: string; undo: string } | { id: string; key: string; values: number[] };

export const cell = (rung: number, criterion: Criterion): string => `${rung} ${criterion}`;

function after(reading: KeptReading, act: Act): KeptReading {
  if ('undo' in act) return { ...reading, acts: reading.acts.filter(({ id }) => id !== act.undo) };
  if ('key' in act) return { ...reading, measured: { ...reading.measured, [act.key]: act.values } };
  if (reading.acts.some(({ id }) => id === act.id)) return reading;
  return { ...reading, acts: [...reading.acts, act] };
}

/** Taps that came or were taken back since, put to those that were known. */
function merged(known: KeptReading, more: KeptReading): KeptReading {
  const newer = new Set(more.acts.map(({ id }) => id));
  return {
    ...more,
    acts: [
      ...known.acts.filter(({ id }) => !newer.has(id)),
      ...more.acts.filter(({ undone }) => !undone),
    ],
  };
}

/** Longest that a link waits for taps to be kept, ms. */
const LONGEST_WAIT_MS = 3000;

export function useReading(readingId: number, first: KeptReading) {
  const router = useRouter();
  const { doc, send } = useKept<KeptReading, Act>(`/readings/${readingId}`, first, after, merged);

  // A link is followed only when the taps before it are kept: the finding must have them all.
  useEffect(() => {
    const onClick = (event: MouseEvent) => {
      const link = (event.target as Element).closest?.('a[href^="/"]');
      const { waiting, failing } = outbox().now();
      if (!link || waiting === 0 || failing) return;
      if (event.ctrlKey || event.metaKey || event.shiftKey) return;
      event.preventDefault();
      event.stopPropagation();
      const late = new Promise((resolve) => setTimeout(resolve, LONGEST_WAIT_MS));
      void Promise.race([outbox().drain(), late]).then(() =>
        router.push(link.getAttribute('href')!),
      );
    };
    document.addEventListener('click', onClick, true);
    return () => document.removeEventListener('click', onClick, true);
  }, [router]);

  const { acts, measured } = doc;
  const state: Taps = {};
  for (const { rung, criterion, score } of acts) state[cell(rung, criterion)] = score;
  return {
    state,
    measured,
    count: Object.keys(state).length,
    canUndo: acts.length > 0,
    /** Where the last tap that still waits went on to: a page that was made meanwhile does not know of it. */
    placeWaiting: (): string | null => outbox().placeWaiting(`/readings/${readingId}`),
    score: (tap: Omit<Tap, 'id'>, place: string) => void send(tap, place),
    measure: (key: string, values: number[]) => void send({ key, values }),
    /** Takes back the last tap of this tab, or of the reading where this tab has done none. @returns it */
    undo(): Tap | null {
      const own = acts.findLast(({ id }) => id.startsWith(`${tabName()}.`));
      const last = own ?? acts.at(-1) ?? null;
      if (last) send({ undo: last.id });
      return last;
    },
  };
}
