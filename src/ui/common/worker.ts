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
