/** The thread that keeps: long work with the database, one at a time, so that no page waits for it. */

import 'server-only';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import type { Phase } from '@/store/everything';
import type { Asked, Ended, Task, Word } from '@/store/keeper';
import { dataFolder } from './store';

const shared = globalThis as { ashKeeperTurn?: Promise<unknown> };

const HOUR_MS = 3_600_000;

/** A copy a day, and what nothing names any more goes; looked for once an hour. */
export function keepCopies(): void {
  const copy = () => {
    const at = new Date();
    void keeping({ do: 'back-up', day: at.toISOString().slice(0, 10), now: at.getTime() }).catch(
      (error: Error) =>
        process.stderr.write(`Today’s backup could not be made: ${error.message}\n`),
    );
  };
  copy();
  setInterval(copy, HOUR_MS).unref();
}

type On = { told?: (phase: Phase, share: number) => void; signal?: AbortSignal };

/** Runs one task after those that are under way. @throws what it threw there */
export function keeping<T extends Task>(task: T, on: On = {}): Promise<Ended[T['do']]> {
  const turn = (shared.ashKeeperTurn ?? Promise.resolve()).then(() => run(task, on));
  shared.ashKeeperTurn = turn.catch(() => undefined);
  return turn as Promise<Ended[T['do']]>;
}

function run(task: Task, { told, signal }: On): Promise<unknown> {
  const asked: Asked = {
    folder: dataFolder(),
    migrations: join(process.cwd(), 'src/store/migrations'),
    task,
  };
  const thread = new Worker(join(process.cwd(), 'src/store/keeper-thread.mjs'), {
    workerData: asked,
  });
  const stop = () => thread.postMessage('stop');
  signal?.addEventListener('abort', stop);
  return new Promise((resolve, reject) => {
    thread.on('message', (word: Word) => {
      if ('told' in word) told?.(word.told, word.share);
      else if ('ended' in word) resolve(word.ended);
      else reject(new Error(word.failed));
    });
    thread.on('error', reject);
    thread.on('exit', () => {
      signal?.removeEventListener('abort', stop);
      reject(new Error(`The thread for “${task.do}” ended before it was done.`));
    });
  });
}
