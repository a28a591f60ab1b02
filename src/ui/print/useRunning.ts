'use client';
// A print that runs on one screen is seen on every other, and can be stopped from there.
import { useCallback, useEffect, useRef, useState } from 'react';
import { followLive } from '../common/live';
import { FINISHED, runTopic, STOPPED, WHOLE } from './running';

/** Told no oftener than this, and believed to be gone after a silence, ms. */
const [EVERY_MS, SILENCE_MS] = [300, 20_000];

/** @param onStop told when somebody elsewhere stops what runs here; says whether it did stop */
export function useRunning(fileId: number, onStop: () => boolean) {
  const [elsewhere, setElsewhere] = useState<number | 'finished' | null>(null);
  const here = useRef(false);
  const last = useRef(0);
  const stop = useRef(onStop);
  useEffect(() => {
    stop.current = onStop;
  });
  useEffect(() => {
    let silence: ReturnType<typeof setTimeout> | undefined;
    const end = followLive(runTopic(fileId), (at) => {
      if (at === Infinity) return;
      if (here.current) {
        if (at === STOPPED && stop.current()) here.current = false;
        return;
      }
      clearTimeout(silence);
      if (at >= 0) silence = setTimeout(() => setElsewhere(null), SILENCE_MS);
      setElsewhere(at === FINISHED ? 'finished' : at === STOPPED ? null : at / WHOLE);
    });
    return () => {
      clearTimeout(silence);
      end();
    };
  }, [fileId]);

  const post = useCallback(
    (at: number) =>
      // Nobody watches where it does not arrive.
      void fetch(runTopic(fileId), {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ at }),
        keepalive: true,
      }).catch(() => undefined),
    [fileId],
  );
  return {
    /** How far a print is that runs on another screen, 0..1. */
    elsewhere,
    stopElsewhere: () => post(STOPPED),
    /** Says how far it is here, 0..1. */
    tell: (share: number) => {
      here.current = true;
      if (Date.now() - last.current < EVERY_MS) return;
      last.current = Date.now();
      post(Math.round(share * WHOLE));
    },
    /** Says that it ended here. */
    over: useCallback(
      (finished: boolean) => {
        if (!here.current) return;
        here.current = false;
        post(finished ? FINISHED : STOPPED);
      },
      [post],
    ),
  };
}
