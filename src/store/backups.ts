/** Copies of the database: one a day, kept for a week, and the way back to one of them. */

import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, copyFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fail, ok, problem, type Result } from '../core/result';
import { checked, replaceAll } from './everything';
import { openStore, type Db, type Migration } from './open';

const KEPT = 7;
const DAILY = /^ash-(\d{4}-\d{2}-\d{2})\.sqlite$/;

/** Days of which there is a copy, newest first. */
export function backupDays(folder: string): string[] {
  const place = join(folder, 'backups');
  if (!existsSync(place)) return [];
  return readdirSync(place)
    .flatMap((name) => DAILY.exec(name)?.[1] ?? [])
    .sort()
    .reverse();
}

export const backupPath = (folder: string, day: string): string =>
  join(folder, 'backups', `ash-${day}.sqlite`);

/**
 * Makes the copy of a day unless it is there, and lets those go that are older than a week of copies.
 *
 * @param day `2026-11-26`
 */
export async function backUp(db: Db, folder: string, day: string): Promise<void> {
  const path = backupPath(folder, day);
  mkdirSync(dirname(path), { recursive: true });
  if (!existsSync(path)) {
    // Whole or not at all: a copy that is cut off never has the name of one.
    const part = `${path}.part`;
    rmSync(part, { force: true });
    await db.backup(part);
    renameSync(part, path);
  }
  for (const old of backupDays(folder).slice(KEPT))
    rmSync(backupPath(folder, old), { force: true });
}

/**
 * Goes back to the copy of a day. What stood before is copied beside it first; the rows change in one transaction, so
 * that a stop in the middle leaves either the old or the new. A database that cannot be opened any more is moved away.
 */
export function restore(
  folder: string,
  day: string,
  migrations: readonly Migration[],
): Result<string> {
  const from = backupPath(folder, day);
  if (!existsSync(from)) {
    const days = backupDays(folder);
    return fail(
      problem(
        day,
        'There is no copy of this day.',
        days.length > 0 ? `There are copies of ${days.join(', ')}.` : 'There are no backups yet.',
      ),
    );
  }
  const scratch = join(folder, 'restoring.sqlite');
  for (const end of ['', '-wal', '-shm']) rmSync(scratch + end, { force: true });
  copyFileSync(from, scratch);
  try {
    const whole = checked(scratch, migrations);
    if (!whole.ok) return whole;
    const path = join(folder, 'ash.sqlite');
    const aside = join(folder, 'backups', 'before-restore.sqlite');
    const now = existsSync(path) ? openStore(path, migrations) : null;
    if (now?.ok) {
      const db = now.value;
      rmSync(aside, { force: true });
      db.prepare('vacuum into ?').run(aside);
      replaceAll(db, scratch);
      db.close();
      return ok(aside);
    }
    for (const end of ['', '-wal', '-shm'])
      if (existsSync(path + end)) renameSync(path + end, aside + end);
    renameSync(scratch, path);
    return ok(aside);
  } finally {
    for (const end of ['', '-wal', '-shm']) rmSync(scratch + end, { force: true });
  }
}
