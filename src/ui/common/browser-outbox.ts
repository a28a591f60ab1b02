'use client';
/** The outbox of this browser, shared by all pages of the program. */

import { createStore, del, get, set, type UseStore } from 'idb-keyval';
import { Outbox, type Pictures } from './outbox';
import { seenOf } from './newest';
import { outlivesPage, pageStore, STORE_HEADER } from './own-fetch';

/** Longest wait for an answer, ms; then the act counts as lost and is sent again. */
const LONGEST_MS = 15_000;
/** The same for a picture, which takes its time where reception is bad. */
const LONGEST_PICTURE_MS = 180_000;

let made: Outbox | null = null;

export function outbox(): Outbox {
  return (made ??= new Outbox({
    storage: storageOf(),
    store: pageStore,
    seen: seenOf,
    send: async (url, body, store) => {
      const text = typeof body === 'string';
      const got = await fetch(url, {
        method: 'POST',
        headers: {
          'content-type': text ? 'application/json' : 'application/octet-stream',
          [STORE_HEADER]: store,
        },
        body,
        keepalive: outlivesPage(body),
        signal: AbortSignal.timeout(text ? LONGEST_MS : LONGEST_PICTURE_MS),
      });
      const now = got.headers.get(STORE_HEADER);
      return {
        status: got.status,
        shut: isShut(got),
        other: got.status === 409 ? now : null,
        json: () => got.json() as Promise<unknown>,
      };
    },
    pictures: browserPictures(),
    alone: (work) =>
      // Over plain HTTP there are no locks: acts carry names, so that two pages sending at once do no harm.
      'locks' in navigator ? navigator.locks.request('ash-outbox', work) : work(),
    later: (work, ms) => void setTimeout(work, ms),
    now: () => Date.now(),
  }));
}

/** Whether the door of phones has answered: this device is not let in. */
export const isShut = (answer: Response): boolean => answer.headers.get('x-ash-door') === 'shut';

/** The browser's own database, also over plain HTTP; opened when the first picture is taken. */
function browserPictures(): Pictures {
  let made: UseStore | undefined;
  const shelf = () => (made ??= createStore('ash-pictures', 'waiting'));
  return {
    put: async (id, picture) => set(id, picture, shelf()),
    get: async (id) => get<Blob>(id, shelf()),
    remove: async (id) => del(id, shelf()),
  };
}

function storageOf(): Storage | null {
  try {
    return window.localStorage;
  } catch {
    return null;
  }
}
