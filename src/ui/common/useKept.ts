'use client';
/**
 * What is kept at an address, as it stands with the acts that still wait: what is on the page is what is kept, after
 * back, forward, reload, restore from the browser's cache, and beside other tabs.
 */

import { useEffect, useSyncExternalStore } from 'react';
import { outbox } from './browser-outbox';
import { listen } from './listen';
import { followLive } from './live';
import { actName } from './names';
import { PREFIX, type Kept, type Named } from './outbox';

/** The newest that any page of this window has seen of each address. */
const newest = new Map<string, Kept>();
const watchers = new Map<string, Set<() => void>>();

function saw(url: string, kept: Kept): void {
  const known = newest.get(url);
  if (known && known.revision >= kept.revision) return;
  newest.set(url, kept);
  watchers.get(url)?.forEach((watcher) => watcher());
}

/** Each of several kinds of acts without its name. */
type Unnamed<Act> = Act extends unknown ? Omit<Act, 'id'> : never;

const EMPTY: readonly Named[] = [];

/**
 * @param first  what the server had when it made the page
 * @param apply  what one act does to it
 */
export function useKept<Doc extends Kept, Act extends Named>(
  url: string,
  first: Doc,
  apply: (doc: Doc, act: Act) => Doc,
) {
  const server = useSyncExternalStore(
    (watcher) => {
      const set = watchers.get(url) ?? new Set();
      watchers.set(url, set.add(watcher));
      return () => void set.delete(watcher);
    },
    () => newerOf(first, newest.get(url) as Doc | undefined),
    () => first,
  );
  const waiting = useSyncExternalStore(
    (watcher) => outbox().watch(watcher),
    () => outbox().waitingFor(url),
    () => EMPTY,
  ) as readonly Act[];

  useEffect(() => outbox().listen(url, (kept) => saw(url, kept)), [url]);
  // Looked up again whenever the page may have stood still: a page out of a cache shows old things.
  useEffect(() => {
    const look = () =>
      fetch(url, { cache: 'no-store' })
        .then((got) => (got.ok ? got.json() : null))
        .then((kept: Kept | null) => kept && saw(url, kept))
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
      followLive(url, (revision) => revision > (newest.get(url)?.revision ?? 0) && void look()),
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
