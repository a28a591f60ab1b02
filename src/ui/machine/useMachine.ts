'use client';
// A machine on the wire, as it stands now.
import { useEffect, useState } from 'react';
import type { LinkState } from '@/core/link-state';
import { followLive } from '../common/live';

const LOOK_MS = 3000;

export function useMachine(machine: number, first: LinkState | null): LinkState | null {
  const [state, setState] = useState(first);
  useEffect(() => {
    const topic = `/machines/${machine}/link`;
    let asking = false;
    let again = false;
    const look = async () => {
      if (asking) {
        again = true;
        return;
      }
      asking = true;
      const answer = await fetch(topic, { cache: 'no-store' }).catch(() => null);
      if (answer?.ok) setState((await answer.json()) as LinkState);
      asking = false;
      if (!again) return;
      again = false;
      void look();
    };
    const end = followLive(topic, () => void look());
    // Also when nobody tells of anything: the part that talks to machines may have ended and begun again.
    const timer = setInterval(() => {
      if (document.visibilityState === 'visible') void look();
    }, LOOK_MS);
    return () => {
      end();
      clearInterval(timer);
    };
  }, [machine]);
  return state;
}
