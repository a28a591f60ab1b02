/** What a worker says when it cannot be loaded or stops: nothing asked of it would ever be answered. */

export function whenBroken(worker: Worker, broke: (error: Error) => void) {
  worker.addEventListener('error', (event) =>
    broke(new Error(event.message || 'a part of the program could not be loaded, or stopped')),
  );
}

/** What was asked of a worker; rejects if the worker breaks before it answers. */
export function orBroken<P extends Promise<unknown>>(
  worker: Worker,
  asked: P,
): Promise<Awaited<P>> {
  return Promise.race([
    asked as Promise<Awaited<P>>,
    new Promise<never>((_resolve, reject) => whenBroken(worker, reject)),
  ]);
}

/** A worker that has given no sign of life for so long, ms, never began. */
const SILENCE_MS = 8000;
/** The second one has longer: on a machine that stalls, the first was only slow. */
const LAST_SILENCE_MS = 60_000;

/**
 * Begins a piece of work in a worker, and once more with another worker if the first gives no sign of life.
 *
 * @param begin makes a worker, ends the one before, and asks it; told what to call at every sign of life
 * @param onShare told how far it is, 0 to 1, until it is over: what a worker tells and what it answers come on two
 *   ways, and the last share may arrive after the answer
 */
export async function begunOnceMore<T>(
  begin: (tell: (share?: number) => void) => Promise<T>,
  onShare: (share: number) => void = () => undefined,
): Promise<T> {
  let over = false;
  let lives = false;
  const tell = (share?: number) => {
    lives = true;
    if (!over && share !== undefined) onShare(share);
  };
  /** Whether it gave no sign of life for so long. */
  const silent = (work: Promise<T>, ms: number) =>
    Promise.race([
      work.then(() => false),
      new Promise<boolean>((done) => setTimeout(() => done(!lives), ms)),
    ]);
  try {
    const first = begin(tell);
    if (!(await silent(first, SILENCE_MS))) return await first;
    const second = begin(tell);
    if (!(await silent(second, LAST_SILENCE_MS))) return await second;
    throw new Error('a part of the program could not be loaded, or stopped');
  } finally {
    over = true;
  }
}
