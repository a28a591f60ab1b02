/**
 * Thin shell of the thread that keeps: what takes long with the database, and that no page may wait for. One at a time,
 * with a connection of its own, told how far it is, and stopped when that is asked.
 */

import { receiveMessageOnPort, type MessagePort } from 'node:worker_threads';
import { join } from 'node:path';
import { problemLine, type Result } from '../core/result';
import { backUp, copyAside, sweepBytes } from './backups';
import { prove, replaceAll, type Phase, type Told } from './everything';
import { migrationsIn, openStore, type Db } from './open';
import { INCOMING, SCRATCH } from './incoming';
import { tidy } from './room';

export type Task =
  { do: 'prove' } | { do: 'replace'; at: string } | { do: 'back-up'; day: string; now: number };
export type Ended = {
  prove: Result<Told>;
  replace: null;
  'back-up': { files: number; size: number };
};
export type Asked = { folder: string; migrations: string; task: Task };
/** What the thread says on its way. */
export type Word = { told: Phase; share: number };

export type Given = Asked & { port: MessagePort };

/** One task, told on its port how far it is. */
export default async function keep({
  folder,
  migrations: at,
  task,
  port,
}: Given): Promise<unknown> {
  const migrations = migrationsIn(at);
  const scratch = join(folder, SCRATCH);
  const withStore = <T>(work: (db: Db) => T): T => {
    const opened = openStore(join(folder, 'ash.sqlite'), migrations);
    if (!opened.ok) throw new Error(opened.problems.map(problemLine).join(' '));
    try {
      return work(opened.value);
    } finally {
      opened.value.close();
    }
  };
  // Asked for at once: a thread that computes hears nothing by itself.
  let stop = false;
  const stopped = () => (stop ||= receiveMessageOnPort(port) !== undefined);
  try {
    switch (task.do) {
      case 'prove':
        return await prove(join(folder, INCOMING), scratch, migrations, {
          told: (told, share) => port.postMessage({ told, share } satisfies Word),
          stopped,
        });
      case 'replace':
        return withStore((db) => {
          copyAside(db, folder, task.at);
          replaceAll(db, scratch);
          return null;
        });
      case 'back-up':
        return withStore((db) => {
          // Once a day: what it looks at is all that there is.
          if (!backUp(db, folder, task.day)) return { files: 0, size: 0 };
          tidy(db, task.now);
          return sweepBytes(db, folder, task.now);
        });
    }
  } finally {
    port.close();
  }
}
