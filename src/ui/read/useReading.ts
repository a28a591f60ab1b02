'use client';
/** State of one reading: every tap is shown at once and kept on the server in the order it was given. */

import { useRef, useState } from 'react';
import type { Criterion } from '@/core/ladders/criteria';
import type { Score } from '@/core/reading/types';
import type { Answer } from '@/core/result';

export type Tap = { rung: number; criterion: Criterion; score: Score | null };
export type Taps = Record<string, Score | null>;

export const cell = (rung: number, criterion: Criterion): string => `${rung} ${criterion}`;

export type Keeping = 'kept' | 'keeping' | 'failed';

type Acts = {
  keep: (tap: Tap) => Promise<Answer>;
  undo: () => Promise<Answer<Tap | null>>;
};

export function useReading(first: readonly Tap[], { keep, undo }: Acts) {
  // All taps that stand, oldest first; what is shown is what they add up to.
  const [taps, setTaps] = useState<readonly Tap[]>(first);
  const [keeping, setKeeping] = useState<Keeping>('kept');
  const queue = useRef<(() => Promise<boolean>)[]>([]);
  const running = useRef(false);

  async function drain() {
    if (running.current) return;
    running.current = true;
    setKeeping('keeping');
    while (queue.current.length > 0) {
      const kept = await queue.current[0]!().catch(() => false);
      if (!kept) {
        running.current = false;
        setKeeping('failed');
        return;
      }
      queue.current.shift();
    }
    running.current = false;
    setKeeping('kept');
  }

  const state: Taps = {};
  for (const { rung, criterion, score } of taps) state[cell(rung, criterion)] = score;

  return {
    state,
    keeping,
    count: Object.keys(state).length,
    canUndo: taps.length > 0,
    score(tap: Tap) {
      setTaps((now) => [...now, tap]);
      queue.current.push(async () => (await keep(tap)).ok);
      void drain();
    },
    /** @returns the tap that was taken back */
    undo(): Tap | null {
      const last = taps.at(-1) ?? null;
      if (!last) return null;
      setTaps((now) => now.slice(0, -1));
      queue.current.push(async () => (await undo()).ok);
      void drain();
      return last;
    },
    retry: () => void drain(),
  };
}
