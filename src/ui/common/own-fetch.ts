'use client';
/**
 * What every request of a page says: which data the page was made with, and the name of the press that it is. An act of
 * a page is sent by the framework, so it is said where requests leave.
 */

import { actName } from './names';
import { listen } from './listen';
import { answered, leave, pressed } from './presses';

export const STORE_HEADER = 'x-ash-store';
const PRESS_HEADER = 'x-ash-press';
/**
 * Bodies below this go on when the page is left, characters: a browser refuses more than 64 kB, and one takes up to
 * three bytes.
 */
const MOST_KEPT_ALIVE = 20_000;

/** Whether what is sent goes on when the page is left. */
export const outlivesPage = (body: unknown): boolean =>
  typeof body === 'string' && body.length < MOST_KEPT_ALIVE;

/** Who is still here after so long, ms, has not left. */
const STILL_HERE_MS = 20_000;

/** What a press sends besides acts of the framework; how far something is, told every second, is no press. */
const PRESSED = /^\/(adopt|kept|understudy|everything)$/;

/** Which data this page was made with. */
export const pageStore = (): string => document.documentElement.dataset.store ?? '';

const told = new Set<() => void>();
/** Which data the program holds, where that turned out to be other than what this page shows. */
let other: string | null = null;

export const otherStore = (): string | null => other;
/** Told when the program turns out to hold other data. @returns ends it */
export function onOtherStore(watcher: () => void): () => void {
  told.add(watcher);
  return () => void told.delete(watcher);
}

/** Name of the press that was sent last. */
let last: string | null = null;
export const lastPress = (): string | null => last;

function install(): void {
  const plain = window.fetch.bind(window);
  window.fetch = async (input, init) => {
    const url = input instanceof Request ? input.url : String(input);
    const { origin, pathname } = new URL(url, window.location.href);
    if (origin !== window.location.origin) return plain(input, init);
    const headers = new Headers(
      init?.headers ?? (input instanceof Request ? input.headers : undefined),
    );
    // What waited says itself what it was made with, and has names of its own.
    if (!headers.has(STORE_HEADER)) headers.set(STORE_HEADER, pageStore());
    const sent = { ...init, headers };
    let press: string | null = null;
    if (headers.has('next-action') || (init?.method === 'POST' && PRESSED.test(pathname))) {
      last = press = actName();
      headers.set(PRESS_HEADER, press);
      pressed(press);
      sent.keepalive = outlivesPage(init?.body);
    }
    const answer = await plain(input, sent);
    if (press !== null) answered(press);
    const now = answer.headers.get(STORE_HEADER);
    if (answer.status === 409 && now && now !== pageStore() && now !== other) {
      other = now;
      told.forEach((watcher) => watcher());
    }
    return answer;
  };
}

if (typeof window !== 'undefined' && !('ashFetch' in window)) {
  Object.assign(window, { ashFetch: true });
  install();
  // What was only a download does not leave the page.
  listen({
    beforeunload: () => {
      leave();
      setTimeout(() => leave(false), STILL_HERE_MS);
    },
    pageshow: () => leave(false),
  });
}
