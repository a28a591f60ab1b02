/**
 * The outbox: acts that were done on a page and have not been acknowledged yet. They are kept by the browser until the
 * program has them, sent in the order in which they were done, and each carries its own name, so that one whose answer
 * was lost is done once. Each says which data it was made with: where the program holds other data now, it stays aside.
 * What is refused stands until a person has seen it.
 */

import { problem, type Problem } from '@/core/result';

export type Named = {
  id: string;
  /** When it was done, where that is told. */
  at?: string;
  /** Of a picture: the rung that it shows alone. */
  rung?: number;
};
type Entry = {
  key: string;
  url: string;
  act: Named;
  place?: string;
  /** A picture goes with it, kept apart: it is sent alone, as it is. */
  picture?: true;
  /** In memory alone, where the browser kept nothing. */
  loose?: true;
  /** Data that it was made with; those of before do not say. */
  store?: string;
  /** Why the program did not take it. */
  refused?: Problem[];
};

/** What was refused, as a person is told of it. */
export type Refused = { key: string; id: string; picture: boolean; problems: Problem[] };

/** What the program keeps at an address after an act. */
export type Kept = { revision: number };

export type OutboxState = {
  waiting: number;
  /** How many of those that wait are pictures. */
  pictures: number;
  /** Whether the last try did not reach the program. */
  failing: boolean;
  /** Whether the program let nobody in: this device was put out, or never let in. */
  shut: boolean;
  /** Made with other data than the program holds now; how many of them are pictures. */
  aside: number;
  asidePictures: number;
  refused: readonly Refused[];
};

/** Where pictures wait: more than a browser keeps as text. */
export type Pictures = {
  put: (id: string, picture: Blob) => Promise<void>;
  get: (id: string) => Promise<Blob | undefined>;
  remove: (id: string) => Promise<void>;
};

/** What the outbox needs of a browser. */
export type Surroundings = {
  storage: Pick<Storage, 'getItem' | 'setItem' | 'removeItem' | 'key' | 'length'> | null;
  /** `other`: the data that the program holds, where it is not the data that was said. */
  send: (
    url: string,
    body: string | Blob,
    store: string,
  ) => Promise<{
    status: number;
    shut?: boolean;
    other?: string | null;
    json: () => Promise<unknown>;
  }>;
  /** Which data the page was made with. */
  store: () => string;
  /** Revision of an address from which on an answer is wanted. */
  seen?: (url: string) => number | null;
  pictures: Pictures;
  /** Runs alone among all pages, where the browser can see to that. */
  alone: (work: () => Promise<void>) => Promise<void>;
  later: (work: () => void, ms: number) => void;
  now: () => number;
};

export const EMPTY_OUTBOX: OutboxState = {
  waiting: 0,
  pictures: 0,
  failing: false,
  shut: false,
  aside: 0,
  asidePictures: 0,
  refused: [],
};
export const PREFIX = 'ash-act ';
const LOST_PICTURE = problem('picture', 'The browser did not keep this picture.', 'Take it again.');
/** Most acts in one request. */
const MOST_AT_ONCE = 200;
const [FIRST_RETRY_MS, LAST_RETRY_MS] = [800, 10_000];

export class Outbox {
  private entries: Entry[] = [];
  private draining: Promise<void> | null = null;
  private retryMs = FIRST_RETRY_MS;
  private state: OutboxState = EMPTY_OUTBOX;
  /** Data that the program holds, as far as is known. */
  private held: string;
  /** Pictures that were taken on this page: shown, and sent, without waiting for the browser to keep them. */
  private readonly taken = new Map<string, Blob>();
  private readonly watchers = new Set<() => void>();
  private readonly answers = new Map<string, Set<(kept: Kept) => void>>();

  constructor(private readonly around: Surroundings) {
    this.held = around.store();
    this.load();
  }

  private readonly isAside = ({ store, refused }: Entry): boolean =>
    !refused && store !== undefined && store !== this.held;
  private readonly isSent = (entry: Entry): boolean => !entry.refused && !this.isAside(entry);

  /** Acts that wait for an address, oldest first. The list is another one whenever it changes. */
  waitingFor(url: string): readonly Named[] {
    const known = this.lists.get(url);
    if (known) return known;
    // Those of other data are no part of what this page shows.
    const here = this.around.store();
    const list = this.entries
      .filter((one) => one.url === url && !one.refused && (one.store ?? here) === here)
      .map(({ act }) => act);
    this.lists.set(url, list);
    return list;
  }
  private lists = new Map<string, readonly Named[]>();

  /** Where the reader went with the newest act that waits for an address; null where that is not said. */
  placeWaiting(url: string): string | null {
    const here = this.around.store();
    const mine = this.entries.filter(
      (one) => one.url === url && !one.refused && (one.store ?? here) === here,
    );
    return mine.findLast(({ place }) => place !== undefined)?.place ?? null;
  }

  now = (): OutboxState => this.state;

  watch = (watcher: () => void): (() => void) => {
    this.watchers.add(watcher);
    return () => void this.watchers.delete(watcher);
  };

  /** Told what the program keeps after acts at an address. */
  listen(url: string, onKept: (kept: Kept) => void): () => void {
    const set = this.answers.get(url) ?? new Set();
    this.answers.set(url, set.add(onKept));
    return () => void set.delete(onKept);
  }

  add(url: string, act: Named, place?: string): void {
    const key = `${this.nextPlace()} ${act.id}`;
    this.enter({ key, url, act, ...(place === undefined ? {} : { place }) });
  }

  /** A picture in its turn among the other acts. It waits in the browser until the program has it. */
  addPicture(url: string, act: Named, picture: Blob): void {
    this.taken.set(act.id, picture);
    const key = `${this.nextPlace()} ${act.id}`;
    this.enter({ key, url, act, picture: true });
    // Where the browser keeps none, it stays in memory as long as the page does.
    this.around.pictures.put(act.id, picture).catch(() => undefined);
  }

  /** The picture of an act that waits. */
  async picture(id: string): Promise<Blob | undefined> {
    return this.taken.get(id) ?? (await this.around.pictures.get(id).catch(() => undefined));
  }

  private enter(made: Entry): void {
    const entry = { ...made, store: this.around.store() };
    this.entries.push(entry);
    this.keep(entry);
    this.changed();
    void this.drain();
  }

  private keep(entry: Entry): void {
    try {
      this.around.storage?.setItem(entry.key, JSON.stringify(entry));
    } catch {
      // A browser that keeps nothing: it stays in memory as long as the page does.
      entry.loose = true;
    }
  }

  /** A person has seen that it was refused. */
  seen(key: string): void {
    this.drop(this.entries.filter((one) => one.key === key && one.refused));
  }

  /** Sends once more what was refused: what stood against it may be gone. */
  again(key: string): void {
    const one = this.entries.find((entry) => entry.key === key);
    if (!one?.refused) return;
    delete one.refused;
    this.keep(one);
    this.changed();
    void this.drain();
  }

  /** What was made with other data, as one file. */
  async asideFile(): Promise<Blob> {
    const acts = [];
    for (const { url, act, store, picture } of this.entries.filter(this.isAside)) {
      const bytes = picture && (await this.picture(act.id));
      acts.push({ store, url, act, ...(bytes ? { picture: await base64(bytes) } : {}) });
    }
    return new Blob([JSON.stringify({ format: 'ash-ladder/aside', version: 1, acts }, null, 1)], {
      type: 'application/json',
    });
  }

  throwAside(): void {
    this.drop(this.entries.filter(this.isAside));
  }

  /** A place after all that wait, also after those of a page whose clock was ahead. */
  private nextPlace(): string {
    const last = this.entries.at(-1)?.key.slice(PREFIX.length).split(' ')[0] ?? '';
    const time = Math.max(this.around.now() * 1000, Number(last) + 1);
    return PREFIX + String(time).padStart(19, '0');
  }

  /** Reads what other pages have put there or have sent. */
  load(): void {
    const { storage } = this.around;
    if (!storage) return;
    const found = this.entries.filter(({ loose }) => loose);
    for (let i = 0; i < storage.length; i++) {
      const key = storage.key(i);
      if (!key?.startsWith(PREFIX)) continue;
      try {
        const entry = JSON.parse(storage.getItem(key) ?? '') as Entry;
        if (typeof entry.url === 'string' && typeof entry.act?.id === 'string')
          found.push({ ...entry, key });
      } catch {
        storage.removeItem(key);
      }
    }
    this.entries = found.sort((a, b) => (a.key < b.key ? -1 : 1));
    this.changed();
  }

  /** Sends what waits until nothing does, or until the program does not answer. */
  drain(): Promise<void> {
    return (this.draining ??= this.around
      .alone(() => this.sendAll())
      .finally(() => {
        this.draining = null;
      })
      // What was added after the last was sent, and before its turn was given back, would wait for the next act.
      .then(() => (this.state.waiting > 0 && !this.state.failing ? this.drain() : undefined)));
  }

  private async sendAll(): Promise<void> {
    this.load();
    for (;;) {
      const all = this.entries.filter(this.isSent);
      if (all.length === 0) break;
      const { url } = all[0]!;
      const batch: Entry[] = [];
      for (const one of all) {
        if (one.url !== url || batch.length === MOST_AT_ONCE) break;
        if (one.picture && batch.length > 0) break;
        batch.push(one);
        if (one.picture) break;
      }
      const status = await this.post(url, batch);
      if (status === 'lost') return this.retryLater();
      // One bad act may not take good ones with it.
      if (status === 'refused' && batch.length > 1)
        for (const one of batch)
          if ((await this.post(url, [one])) === 'lost') return this.retryLater();
    }
    this.retryMs = FIRST_RETRY_MS;
    this.set({ failing: false, shut: false });
  }

  /** What is sent of some acts, and where; null for a picture that the browser has lost. */
  private async bodyOf(url: string, batch: Entry[]): Promise<[string, string | Blob] | null> {
    const [first] = batch;
    if (!first!.picture) {
      const place = batch.at(-1)!.place;
      const acts = batch.map(({ act }) => act);
      const since = this.around.seen?.(url) ?? null;
      return [
        url,
        JSON.stringify({
          acts,
          ...(place === undefined ? {} : { place }),
          ...(since === null ? {} : { since }),
        }),
      ];
    }
    const { id, at, rung } = first!.act;
    const picture = await this.picture(id);
    const about = new URLSearchParams({
      act: id,
      ...(at === undefined ? {} : { at }),
      ...(rung === undefined ? {} : { rung: String(rung) }),
    });
    return picture ? [`${url}?${about}`, picture] : null;
  }

  private async post(url: string, batch: Entry[]): Promise<'kept' | 'refused' | 'aside' | 'lost'> {
    const told = await this.bodyOf(url, batch);
    if (!told) {
      this.refuse(batch, [LOST_PICTURE]);
      return 'refused';
    }
    const store = batch[0]!.store ?? this.held;
    let answer: { status: number; body: unknown };
    try {
      const got = await this.around.send(...told, store);
      if (got.shut) {
        // Not refused: it is sent when this device is let in again.
        this.set({ shut: true });
        return 'lost';
      }
      if (got.other && got.other !== store) {
        this.held = got.other;
        this.changed();
        return 'aside';
      }
      answer = { status: got.status, body: await got.json() };
    } catch {
      return 'lost';
    }
    const { status, body } = answer;
    if (status >= 500 || status === 429 || status === 408) return 'lost';
    if (status >= 400) {
      if (batch.length > 1) return 'refused';
      const { problems = [] } = body as { problems?: Problem[] };
      this.refuse(batch, problems);
      return 'refused';
    }
    // Told before the acts leave the list, so that nothing on a page flickers back.
    this.answers.get(url)?.forEach((told) => told(body as Kept));
    this.drop(batch);
    return 'kept';
  }

  private refuse(batch: readonly Entry[], problems: Problem[]): void {
    for (const one of batch) {
      one.refused = problems;
      this.keep(one);
    }
    this.changed();
  }

  private drop(batch: readonly Entry[]): void {
    for (const { key, picture, act } of batch) {
      this.around.storage?.removeItem(key);
      if (!picture) continue;
      this.taken.delete(act.id);
      this.around.pictures.remove(act.id).catch(() => undefined);
    }
    const gone = new Set(batch.map(({ key }) => key));
    this.entries = this.entries.filter(({ key }) => !gone.has(key));
    this.changed();
  }

  private retryLater(): void {
    this.set({ failing: true });
    this.around.later(() => void this.drain(), this.retryMs);
    this.retryMs = Math.min(LAST_RETRY_MS, this.retryMs * 2);
  }

  private changed(): void {
    this.lists = new Map();
    this.set({});
  }

  private set(next: { failing?: boolean; shut?: boolean }): void {
    const sent = this.entries.filter(this.isSent);
    const aside = this.entries.filter(this.isAside);
    const { failing, shut } = { ...this.state, ...next };
    this.state = {
      waiting: sent.length,
      pictures: sent.filter(({ picture }) => picture).length,
      failing: failing && sent.length > 0,
      shut,
      aside: aside.length,
      asidePictures: aside.filter(({ picture }) => picture).length,
      refused: this.entries.flatMap(({ key, act, picture, refused }) =>
        refused ? [{ key, id: act.id, picture: picture === true, problems: refused }] : [],
      ),
    };
    this.watchers?.forEach((watcher) => watcher());
  }
}

/** Bytes as text that a file of JSON can hold. */
async function base64(bytes: Blob): Promise<string> {
  const all = new Uint8Array(await bytes.arrayBuffer());
  let text = '';
  const step = 0x8000;
  for (let at = 0; at < all.length; at += step)
    text += String.fromCharCode(...all.subarray(at, at + step));
  return btoa(text);
}
