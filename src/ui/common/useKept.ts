'use client';
/**
 * What is kept at an address, as it stands with the acts that still wait: what is on the page is what is kept, after
 * back, forward, reload, restore from the browser's cache, and beside other tabs.
 */

import { useEffect, useRef, useSyncExternalStore } from 'react';
import { outbox } from './browser-outbox';
import { listen } from './listen';
import { followLive } from './live';
import { actName } from './names';
import { begin, newestOf, saw, seenOf, watchNewest } from './newest';
import { PREFIX, type Kept, type Named } from './outbox';

/** Each of several kinds of acts without its name. */
type Unnamed<Act> = Act extends unknown ? Omit<Act, 'id'> : never;

const EMPTY: readonly Named[] = [];

/**
 * @param first  what the server had when it made the page
 * @param apply  what one act does to it
 * @param merge  puts what came after a revision to what was known then; without it all of it is asked for each time
 */
export function useKept<Doc extends Kept, Act extends Named>(
  url: string,
  first: Doc,
  apply: (doc: Doc, act: Act) => Doc,
  merge?: (doc: Doc, more: Doc) => Doc,
) {
  const server = useSyncExternalStore(
    (watcher) => watchNewest(url, watcher),
    () => newerOf(first, newestOf(url) as Doc | undefined),
    () => first,
  );
  const waiting = useSyncExternalStore(
    (watcher) => outbox().watch(watcher),
    () => outbox().waitingFor(url),
    () => EMPTY,
  ) as readonly Act[];

  const start = useRef({ first, merge });
  useEffect(() => {
    const { first, merge } = start.current;
    begin(url, first, merge as ((doc: Kept, more: Kept) => Kept) | undefined);
    return outbox().listen(url, (kept) => void saw(url, kept));
  }, [url]);
  // Looked up again whenever the page may have stood still: a page out of a cache shows old things.
  useEffect(() => {
    const look = (since: number | null = seenOf(url)): Promise<unknown> =>
      fetch(since === null ? url : `${url}?since=${since}`, { cache: 'no-store' })
        .then((got) => (got.ok ? got.json() : null))
        .then((kept: Kept | null) => kept && (saw(url, kept) || look(null)))
        .catch(() => undefined);
    const onShow = () => document.visibilityState === 'visible' && void look();
    const onStorage = ({ key }: StorageEvent) => key?.startsWith(PREFIX) && void look();
    void look();
    const ends = [
      listen({
        pageshow: onShow,
        visibilitychange: onShow,
        focus: onShow,
        storage: onStorage,
      }),
      // What another device does is seen here at once.
      followLive(url, (revision) => revision > (newestOf(url)?.revision ?? 0) && void look()),
    ];
    return () => ends.forEach((end) => end());
  }, [url]);

  return {
    doc: waiting.reduce(apply, server),
    /** @param rung that it shows alone, where it does */
    sendPicture(picture: Blob, rung?: number): void {
      const of = rung === undefined ? {} : { rung };
      outbox().addPicture(url, { id: actName(), at: new Date().toISOString(), ...of }, picture);
    },
    send(act: Unnamed<Act>, place?: string): Act {
      const named = { ...act, id: actName() } as unknown as Act;
      outbox().add(url, named, place);
      return named;
    },
  };
}

const newerOf = <Doc extends Kept>(first: Doc, seen: Doc | undefined): Doc =>
  seen && seen.revision > first.revision ? seen : first;
