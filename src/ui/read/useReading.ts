'use client';
/** State of one reading: every tap is shown at once and kept on the server in the order it was given. */

import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import type { Criterion } from '@/core/criteria';
import type { Score } from '@/core/reading/types';

export type Tap = { rung: number; criterion: Criterion; score: Score | null };
export type Taps = Record<string, Score | null>;
type Step = Tap | { undo: true };

export const cell = (rung: number, criterion: Criterion): string => `${rung} ${criterion}`;

export type Keeping = 'kept' | 'keeping' | 'failed';

export function useReading(readingId: number, first: readonly Tap[], firstPlace: string) {
  const router = useRouter();
  // All taps that stand, oldest first; what is shown is what they add up to.
  const [taps, setTaps] = useState<readonly Tap[]>(first);
  const [keeping, setKeeping] = useState<Keeping>('kept');
  const waiting = useRef<Step[]>([]);
  const place = useRef(firstPlace);
  const sent = useRef(firstPlace);
  const sending = useRef<Promise<boolean> | null>(null);

  /** Sends what waits, again and again until nothing does. @returns whether all is kept */
  async function drain(): Promise<boolean> {
    setKeeping('keeping');
    while (waiting.current.length > 0 || sent.current !== place.current) {
      const steps = [...waiting.current];
      const at = place.current;
      const kept = await fetch(`/readings/${readingId}`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ steps, place: at }),
        keepalive: true, // goes on when the page is closed
      }).then(
        (response) => response.ok,
        () => false,
      );
      if (!kept) {
        setKeeping('failed');
        return false;
      }
      waiting.current.splice(0, steps.length);
      sent.current = at;
    }
    setKeeping('kept');
    return true;
  }
  const keep = (): Promise<boolean> =>
    (sending.current ??= drain().finally(() => {
      sending.current = null;
    }));

  // A link is followed only when the taps before it are kept: the finding must have them all.
  useEffect(() => {
    const onClick = (event: MouseEvent) => {
      const link = (event.target as Element).closest?.('a[href^="/"]');
      if (!link || !sending.current || event.ctrlKey || event.metaKey || event.shiftKey) return;
      event.preventDefault();
      event.stopPropagation();
      void sending.current.then((kept) => kept && router.push(link.getAttribute('href')!));
    };
    document.addEventListener('click', onClick, true);
    return () => document.removeEventListener('click', onClick, true);
  }, [router]);

  const state: Taps = {};
  for (const { rung, criterion, score } of taps) state[cell(rung, criterion)] = score;

  return {
    state,
    keeping,
    count: Object.keys(state).length,
    canUndo: taps.length > 0,
    score(tap: Tap) {
      setTaps((now) => [...now, tap]);
      waiting.current.push(tap);
      void keep();
    },
    /** @returns the tap that was taken back */
    undo(): Tap | null {
      const last = taps.at(-1) ?? null;
      if (!last) return null;
      setTaps((now) => now.slice(0, -1));
      waiting.current.push({ undo: true });
      void keep();
      return last;
    },
    keepPlace(next: string) {
      place.current = next;
      void keep();
    },
    retry: () => void keep(),
  };
}
