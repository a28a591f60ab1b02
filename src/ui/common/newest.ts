'use client';
/** The newest that any page of this window has seen of each address. */

import type { Kept } from './outbox';

/** Puts what came after a revision to what was known then. */
type Merge = (doc: Kept, more: Kept) => Kept;

const newest = new Map<string, Kept>();
const merges = new Map<string, Merge>();
const watchers = new Map<string, Set<() => void>>();

/** What is kept there, and what came after the revision `since` where that is said. */
export type Answered = Kept & { since?: number };

export const newestOf = (url: string): Kept | undefined => newest.get(url);

/** Revision from which on an answer is wanted; null where all of it is. */
export const seenOf = (url: string): number | null =>
  merges.has(url) ? (newest.get(url)?.revision ?? null) : null;

/** Says what a page was made with, and how what comes later is put to it. */
export function begin(url: string, first: Kept, merge: Merge | undefined): void {
  if (!merge) return;
  merges.set(url, merge);
  if ((newest.get(url)?.revision ?? -1) < first.revision) newest.set(url, first);
}

/** @returns false where it begins after what is known: all of it has to be asked for */
export function saw(url: string, answer: Answered): boolean {
  const known = newest.get(url);
  if (known && known.revision >= answer.revision) return true;
  const { since, ...kept } = answer;
  const merge = merges.get(url);
  if (since !== undefined && (!known || !merge || known.revision < since)) return false;
  newest.set(url, since === undefined ? kept : merge!(known!, kept));
  watchers.get(url)?.forEach((watcher) => watcher());
  return true;
}

export function watchNewest(url: string, watcher: () => void): () => void {
  const set = watchers.get(url) ?? new Set();
  watchers.set(url, set.add(watcher));
  return () => void set.delete(watcher);
}
