/** The thread that keeps: long work with the database, one at a time, so that no page waits for it. */

import 'server-only';
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { MessageChannel } from 'node:worker_threads';
import { Piscina } from 'piscina';
import { removeScratch, type Phase } from '@/store/everything';
import { INCOMING, SCRATCH } from '@/store/incoming';
import type { Ended, Given, Task, Word } from '@/store/keeper';
import { dataFolder } from './store';

const IDLE_MS = 60_000;
const shared = globalThis as { ashKeeperTurn?: Promise<unknown>; ashKeeper?: Piscina };

const [FIRST_MS, HOUR_MS] = [5000, 3_600_000];

/** A copy a day, and what nothing names any more goes; looked for once an hour. */
export function keepCopies(): void {
  const copy = () => {
    const at = new Date();
    void keeping({ do: 'back-up', day: at.toISOString().slice(0, 10), now: at.getTime() }).catch(
      (error: Error) =>
        process.stderr.write(`Today’s backup could not be made: ${error.message}\n`),
    );
  };
  // What an import that was cut off, or never taken in, has left behind.
  rmSync(join(dataFolder(), INCOMING), { force: true });
  removeScratch(join(dataFolder(), SCRATCH));
  // The first page comes first.
  setTimeout(copy, FIRST_MS).unref();
  setInterval(copy, HOUR_MS).unref();
}

type On = { told?: (phase: Phase, share: number) => void; signal?: AbortSignal };

/** Runs one task after those that are under way. @throws what it threw there */
export function keeping<T extends Task>(task: T, on: On = {}): Promise<Ended[T['do']]> {
  const turn = (shared.ashKeeperTurn ?? Promise.resolve()).then(() => run(task, on));
  shared.ashKeeperTurn = turn.catch(() => undefined);
  return turn as Promise<Ended[T['do']]>;
}

async function run(task: Task, { told, signal }: On): Promise<unknown> {
  const pool = (shared.ashKeeper ??= new Piscina({
    filename: join(process.cwd(), 'dist/keeper-thread.js'),
    minThreads: 0,
    maxThreads: 1,
    idleTimeout: IDLE_MS,
  }));
  const { port1, port2 } = new MessageChannel();
  port1.on('message', (word: Word) => told?.(word.told, word.share));
  const stop = () => port1.postMessage('stop');
  signal?.addEventListener('abort', stop);
  const given: Given = {
    folder: dataFolder(),
    migrations: join(process.cwd(), 'src/store/migrations'),
    task,
    port: port2,
  };
  try {
    return (await pool.run(given, { transferList: [port2] })) as unknown;
  } finally {
    signal?.removeEventListener('abort', stop);
    port1.close();
  }
}
