/** Copies of the database: one a day, kept for a week, and the way back to one of them. */

import Database from 'better-sqlite3';
import {
  existsSync,
  mkdirSync,
  readdirSync,
  renameSync,
  rmSync,
  copyFileSync,
  statSync,
} from 'node:fs';
import { dirname, join } from 'node:path';
import { fail, ok, problem, type Result } from '../core/result';
import { checked, removeScratch, replaceAll } from './everything';
import { namedIn, sweep } from './bytes';
import { anotherGeneration } from './identity';
import { openStore, type Db, type Migration } from './open';

const KEPT = 7;
const DAILY = /^ash-(\d{4}-\d{2}-\d{2})\.sqlite$/;
/** Copies of what stood before everything was replaced; those of before had no date. */
const ASIDE = /^before-(?:import|restore)(?:-[\dT-]+)?\.sqlite$/;
/** As many of these are kept, the newest. */
const KEPT_ASIDE = 5;

const namesIn = (folder: string): string[] => {
  const place = join(folder, 'backups');
  return existsSync(place) ? readdirSync(place) : [];
};

/** Days of which there is a copy, newest first. */
export const backupDays = (folder: string): string[] =>
  namesIn(folder)
    .flatMap((name) => DAILY.exec(name)?.[1] ?? [])
    .sort()
    .reverse();

export const backupPath = (folder: string, day: string): string =>
  join(folder, 'backups', `ash-${day}.sqlite`);

/** Names of the copies that were made before everything was replaced, newest first. */
export const asideNames = (folder: string): string[] =>
  namesIn(folder)
    .filter((name) => ASIDE.test(name))
    .map((name) => ({ name, at: statSync(join(folder, 'backups', name)).mtimeMs }))
    .sort((a, b) => b.at - a.at)
    .map(({ name }) => name.replace(/\.sqlite$/, ''));

/** Where what stands is copied to before it is replaced. @param at ISO */
export function asidePath(folder: string, before: 'import' | 'restore', at: string): string {
  const time = at.slice(0, 19).replace(/:/g, '-');
  const path = join(folder, 'backups', `before-${before}-${time}.sqlite`);
  mkdirSync(dirname(path), { recursive: true });
  return path;
}

/** Copies what stands before it is replaced, whole or not at all; the oldest such copies go. */
export function copyAside(db: Db, folder: string, at: string): string {
  const path = asidePath(folder, 'import', at);
  copyTo(db, path);
  thin(folder);
  return path;
}

function thin(folder: string): void {
  for (const old of asideNames(folder).slice(KEPT_ASIDE))
    rmSync(join(folder, 'backups', `${old}.sqlite`), { force: true });
}

/**
 * Whole or not at all: a copy that is cut off never has the name of one. It is of one moment, however much is written
 * meanwhile; what rows name by its hash stays where it is, and is kept as long as a copy names it.
 */
export function copyTo(db: Db, path: string): void {
  const part = `${path}.part`;
  rmSync(part, { force: true });
  db.prepare('vacuum into ?').run(part);
  renameSync(part, path);
}

/** Takes away bytes that neither the database nor a copy of it names. */
export function sweepBytes(db: Db, folder: string, now: number): { files: number; size: number } {
  const named = new Set(namedIn(db));
  const copies = [
    ...namesIn(folder)
      .filter((name) => name.endsWith('.sqlite'))
      .map((name) => join(folder, 'backups', name)),
    // Those that stand from before a newer program.
    ...readdirSync(folder)
      .filter((name) => /^ash\.sqlite\.before-\d+$/.test(name))
      .map((name) => join(folder, name)),
  ];
  for (const path of copies) {
    let copy: Db | null = null;
    try {
      copy = new Database(path, { readonly: true });
      // One of before has its bytes in its rows.
      if ((copy.pragma('user_version', { simple: true }) as number) < NAMES_SINCE) continue;
      for (const sha of namedIn(copy)) named.add(sha);
    } catch {
      // What a copy names that cannot be read nobody knows: nothing goes.
      return { files: 0, size: 0 };
    } finally {
      copy?.close();
    }
  }
  return sweep(join(folder, 'bytes'), named, now);
}
/** Version of the database from which bytes stand beside it. */
const NAMES_SINCE = 20;

/**
 * Makes the copy of a day unless it is there, and lets those go that are older than a week of copies.
 *
 * @param day `2026-11-26`
 * @returns whether it was made now
 */
export function backUp(db: Db, folder: string, day: string): boolean {
  const path = backupPath(folder, day);
  mkdirSync(dirname(path), { recursive: true });
  if (existsSync(path)) return false;
  copyTo(db, path);
  for (const old of backupDays(folder).slice(KEPT))
    rmSync(backupPath(folder, old), { force: true });
  return true;
}

/**
 * Goes back to a copy: of a day, or of what stood before an import or a return. What stands is copied beside it first;
 * the rows change in one transaction, so that a stop in the middle leaves either the old or the new. A database that
 * cannot be opened any more is moved away.
 */
export function restore(
  folder: string,
  copy: string,
  migrations: readonly Migration[],
  at: string,
): Result<string> {
  const all = [...backupDays(folder), ...asideNames(folder)];
  if (!all.includes(copy))
    return fail(
      problem(
        copy,
        'There is no such copy.',
        all.length > 0 ? `There are copies of ${all.join(', ')}.` : 'There are no backups yet.',
      ),
    );
  const from = copy.startsWith('before-')
    ? join(folder, 'backups', `${copy}.sqlite`)
    : backupPath(folder, copy);
  const scratch = join(folder, 'restoring.sqlite');
  removeScratch(scratch);
  copyFileSync(from, scratch);
  try {
    const whole = checked(scratch, migrations);
    if (!whole.ok) return whole;
    const path = join(folder, 'ash.sqlite');
    const aside = asidePath(folder, 'restore', at);
    const now = existsSync(path) ? openStore(path, migrations) : null;
    if (now?.ok) {
      const db = now.value;
      rmSync(aside, { force: true });
      db.prepare('vacuum into ?').run(aside);
      replaceAll(db, scratch);
      db.close();
      thin(folder);
      return ok(aside);
    }
    for (const end of ['', '-wal', '-shm'])
      if (existsSync(path + end)) renameSync(path + end, aside + end);
    const back = openStore(scratch, migrations, { copies: false });
    if (!back.ok) return back;
    anotherGeneration(back.value);
    back.value.close();
    renameSync(scratch, path);
    return ok(aside);
  } finally {
    removeScratch(scratch);
  }
}
