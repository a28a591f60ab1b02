'use client';
/** Keeps the screen of a phone from going dark while somebody looks at plastic, where its browser allows that. */

import { useEffect, useState } from 'react';
import { listen } from './listen';

/** @returns whether the browser holds the screen awake; null until that is known */
export function useAwake(): boolean | null {
  const [awake, setAwake] = useState<boolean | null>(null);
  useEffect(() => {
    // Over plain HTTP there is no such lock.
    const locks = 'wakeLock' in navigator ? navigator.wakeLock : undefined;
    let lock: WakeLockSentinel | null = null;
    let ended = false;
    const hold = () => {
      if (!locks) return setAwake(false);
      if (document.visibilityState !== 'visible' || (lock && !lock.released)) return;
      locks.request('screen').then(
        (held) => {
          lock = held;
          if (ended) void held.release();
          else setAwake(true);
        },
        () => setAwake(false),
      );
    };
    hold();
    // The browser lets go of it whenever the page is out of sight.
    const end = listen({ visibilitychange: hold });
    return () => {
      ended = true;
      end();
      void lock?.release();
    };
  }, []);
  return awake;
}
