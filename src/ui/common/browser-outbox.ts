'use client';
/** The outbox of this browser, shared by all pages of the program. */

import { Outbox } from './outbox';

/** Longest wait for an answer, ms; then the act counts as lost and is sent again. */
const LONGEST_MS = 15_000;
/** Bodies up to this size, bytes, go on when the page is closed. */
const KEEPALIVE_BYTES = 60_000;

let made: Outbox | null = null;

export function outbox(): Outbox {
  return (made ??= new Outbox({
    storage: storageOf(),
    send: (url, body) =>
      fetch(url, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body,
        keepalive: body.length < KEEPALIVE_BYTES,
        signal: AbortSignal.timeout(LONGEST_MS),
      }),
    alone: (work) =>
      // Over plain HTTP there are no locks: acts carry names, so that two pages sending at once do no harm.
      'locks' in navigator ? navigator.locks.request('ash-outbox', work) : work(),
    later: (work, ms) => void setTimeout(work, ms),
    now: () => Date.now(),
  }));
}

function storageOf(): Storage | null {
  try {
    return window.localStorage;
  } catch {
    return null;
  }
}

const TAB = 'ash-tab';
let counter = 0;

/** Name of this tab; it stays through reloads, and undo prefers what was done here. */
export function tabName(): string {
  try {
    const known = sessionStorage.getItem(TAB);
    if (known) return known;
    const name = random();
    sessionStorage.setItem(TAB, name);
    return name;
  } catch {
    return 'tab';
  }
}

const random = (): string =>
  Array.from(crypto.getRandomValues(new Uint8Array(8)), (byte) =>
    byte.toString(16).padStart(2, '0'),
  ).join('');

/** A name for an act, like no other. */
export const actName = (): string =>
  `${tabName()}.${Date.now().toString(36)}.${counter++}.${random().slice(0, 6)}`;
