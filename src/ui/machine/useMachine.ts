'use client';
// A machine on the wire, as it stands now.
import { useEffect, useState } from 'react';
import type { LinkState } from '@/core/link-state';
import { followLive } from '../common/live';

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
    return followLive(topic, () => void look());
  }, [machine]);
  return state;
}
