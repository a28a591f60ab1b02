'use client';
/**
 * One open connection by which the program tells this page what changed elsewhere. Only a page that is looked at holds
 * one: a browser has few of them for all its tabs.
 */

import { isShut } from './browser-outbox';
import { listen } from './listen';
import { otherStore, pageStore } from './own-fetch';

type Told = (revision: number) => void;

const topics = new Map<string, Set<Told>>();
const shutTold = new Set<() => void>();
let source: EventSource | null = null;
let settling: ReturnType<typeof setTimeout> | null = null;
let deaf: (() => void) | null = null;

/** Lets several parts of a page say what they follow before it is asked for, ms. */
const SETTLE_MS = 30;
const AGAIN_MS = 2000;
const url = (): string => {
  const of = [...topics.keys()].filter(Boolean).map((topic) => ['of', topic]);
  return `/live?${new URLSearchParams([...of, ['store', pageStore()]])}`;
};

function follow(): void {
  source?.close();
  source = null;
  if (topics.size === 0 || document.visibilityState !== 'visible') return;
  const made = (source = new EventSource(url()));
  // Also after it was lost for a while: what came by meanwhile is looked up.
  made.onopen = () => topics.forEach((all) => all.forEach((told) => told(Infinity)));
  made.onmessage = ({ data }: MessageEvent<string>) => {
    const [topic = '', revision] = data.split(' ');
    topics.get(topic)?.forEach((told) => told(Number(revision)));
  };
  // The browser tries again by itself unless it was answered with something else.
  made.onerror = () => {
    if (made.readyState === EventSource.CLOSED && source === made) void askWhy();
  };
}

async function askWhy(): Promise<void> {
  source = null;
  const answer = await fetch('/live', { method: 'HEAD', cache: 'no-store' }).catch(() => null);
  // Another one is not followed: what it tells is not of this page.
  if (otherStore() !== null) return;
  if (answer && isShut(answer)) return shutTold.forEach((told) => told());
  setTimeout(again, AGAIN_MS);
}

function again(): void {
  settling ??= setTimeout(() => {
    settling = null;
    follow();
  }, SETTLE_MS);
}

/**
 * Follows a topic, such as `/readings/3`; an empty one only keeps the connection open.
 *
 * @param told gets the revision there is now; Infinity where it may be any
 * @returns ends it
 */
export function followLive(topic: string, told: Told): () => void {
  const all = topics.get(topic) ?? new Set();
  topics.set(topic, all.add(told));
  deaf ??= listen({ visibilitychange: again, online: again, pageshow: again });
  again();
  return () => {
    all.delete(told);
    if (all.size > 0) return;
    topics.delete(topic);
    again();
  };
}

/** Told when this device turns out to be put out. @returns ends it */
export function onShut(told: () => void): () => void {
  shutTold.add(told);
  return () => void shutTold.delete(told);
}
