'use client';
/** Which rung is open: it stands in the address, so that back, reload and a link bring it again. */
import { useSyncExternalStore } from 'react';
import { listen } from '../common/listen';

const now = (): string => decodeURIComponent(window.location.hash.slice(1));
const none = (): string => '';
const follow = (told: () => void) => listen({ hashchange: told, popstate: told });

export function useOpenRung(): [string, (kind: string) => void] {
  const open = useSyncExternalStore(follow, now, none);
  return [
    open,
    (kind) => {
      const { pathname, search } = window.location;
      window.history.replaceState(
        window.history.state,
        '',
        pathname + search + (kind && `#${kind}`),
      );
      // Nobody is told of an address that a page changes itself.
      window.dispatchEvent(new HashChangeEvent('hashchange'));
    },
  ];
}
