'use client';
/**
 * Presses of this tab whose answer has not come. Going to another page does not wait for it, and must not lose it: the
 * page that comes after looks up what became of them.
 */

const KEY = 'ash-presses';

/** Presses that were begun here and have not been sent: leaving in that moment loses them. */
const BEGUN = 'ash-begun';

type Shelf = Pick<Storage, 'getItem' | 'setItem' | 'removeItem'>;

function shelfOf(): Shelf | null {
  try {
    return window.sessionStorage;
  } catch {
    return null;
  }
}

/** Names of presses that a page before this one, or this one, has no answer to; oldest first. */
export const unanswered = (shelf = shelfOf()): string[] => namesIn(KEY, shelf);

function namesIn(key: string, shelf: Shelf | null): string[] {
  try {
    const kept: unknown = JSON.parse(shelf?.getItem(key) ?? '[]');
    return Array.isArray(kept) ? kept.filter((one) => typeof one === 'string') : [];
  } catch {
    return [];
  }
}

function keep(key: string, names: readonly string[], shelf: Shelf | null): void {
  try {
    if (names.length === 0) shelf?.removeItem(key);
    else shelf?.setItem(key, JSON.stringify(names));
  } catch {
    // A browser that keeps nothing: this page alone knows of it.
  }
}

/** A press leaves the page: whichever was begun first is sent first. */
export function pressed(name: string, shelf = shelfOf()): void {
  keep(BEGUN, namesIn(BEGUN, shelf).slice(1), shelf);
  keep(KEY, [...unanswered(shelf), name], shelf);
}

export function answered(name: string, shelf = shelfOf()): void {
  // The next page is on its way, and may have been made before this was done: it looks it up.
  if (leaving) return;
  keep(
    KEY,
    unanswered(shelf).filter((one) => one !== name),
    shelf,
  );
}

/** Whether another page is on its way. */
let leaving = false;
export const leave = (goes = true): void => void (leaving = goes);

/** A press is begun. @returns to be called when it is over, whether anything was sent or not */
export function beginPress(name: string, shelf = shelfOf()): () => void {
  keep(BEGUN, [...namesIn(BEGUN, shelf), name], shelf);
  return () =>
    keep(
      BEGUN,
      namesIn(BEGUN, shelf).filter((one) => one !== name),
      shelf,
    );
}

/** Whether the page before this one was left between a press and its sending; asked once. */
export function leftUnsent(shelf = shelfOf()): boolean {
  const left = namesIn(BEGUN, shelf).length > 0;
  keep(BEGUN, [], shelf);
  return left;
}

/** How a press ended, as the program tells it; `begun` where it still runs. */
export type Fate = 'begun' | 'done' | 'cut' | 'barred';

type Around = {
  /** Asks the program; null where it does not answer. */
  fateOf: (name: string) => Promise<Fate | null>;
  wait: () => Promise<void>;
  shelf?: Shelf | null;
};

/**
 * Follows presses of the page before to their ends.
 *
 * @returns how each ended that has ended; one of which nothing is known stays for the next page
 */
export async function endsOf(
  names: readonly string[],
  { fateOf, wait, shelf = shelfOf() }: Around,
): Promise<Exclude<Fate, 'begun'>[]> {
  const ends: Exclude<Fate, 'begun'>[] = [];
  for (const name of names) {
    let fate = await fateOf(name);
    while (fate === 'begun') {
      await wait();
      fate = await fateOf(name);
    }
    if (fate === null) continue;
    answered(name, shelf);
    ends.push(fate);
  }
  return ends;
}
