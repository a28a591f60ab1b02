/** Threads for heavy work: no request waits for another's computation. */

import 'server-only';
import { join } from 'node:path';
import { Piscina } from 'piscina';
import type * as Tasks from '@/workers/server';

type Tasks = typeof Tasks;
type Name = keyof Tasks;
type Out<N extends Name> = Awaited<ReturnType<Tasks[N]>>;

/** A task that takes longer than this, ms, hangs. */
const LONGEST_MS = 120_000;
const IDLE_MS = 300_000;

function makePool(): Piscina {
  return new Piscina({
    filename: join(process.cwd(), 'dist/server-thread.js'),
    minThreads: 1,
    maxThreads: 2,
    idleTimeout: IDLE_MS,
  });
}

const shared = globalThis as { ashThreads?: Piscina };

/** Starts a thread, so that the first task does not wait for it. */
export function wake(): void {
  shared.ashThreads ??= makePool();
  void inThread('warmUp', undefined).catch(() => undefined);
}

/** Runs one task in a thread. @throws when it throws there, hangs, or is aborted */
export async function inThread<N extends Name>(
  name: N,
  task: Parameters<Tasks[N]>[0],
): Promise<Out<N>> {
  const pool = (shared.ashThreads ??= makePool());
  return (await pool.run(task, { name, signal: AbortSignal.timeout(LONGEST_MS) })) as Out<N>;
}
