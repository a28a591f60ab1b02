/** Remembers results of clipping by what went in: rungs repeat each other, and so do two designs in a row. */

import type { Region } from '../shape/region';

/** Entries after which a memory starts afresh; a ladder of thirty rungs needs a few thousand. */
const MOST_ENTRIES = 20_000;

export class Memo<T> {
  private readonly known = new Map<string, T>();

  get(key: string, make: () => T): T {
    const found = this.known.get(key);
    if (found !== undefined) return found;
    const made = make();
    if (this.known.size >= MOST_ENTRIES) this.known.clear();
    this.known.set(key, made);
    return made;
  }
}

/** Regions with the same key are the same to a tenth of a micron. */
export const regionKey = (region: Region): string =>
  region
    .map((ring) =>
      ring.map(({ x, y }) => `${Math.round(x * 1e4)},${Math.round(y * 1e4)}`).join(' '),
    )
    .join(';');
