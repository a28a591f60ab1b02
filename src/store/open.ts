/** Opens the one SQLite file: durable, migrated, or refused with words. */

import Database from 'better-sqlite3';
import {
  copyFileSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  statfsSync,
  statSync,
} from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { keeperOf } from './bytes';
import { fail, ok, problem, type Result } from '../core/result';

export type Db = Database.Database;

type Opening = {
  /** Whether an older file is copied before it is changed. */
  copies?: boolean;
  /** Bytes that are free where a file is. */
  free?: (path: string) => number;
  /** Told in words of what takes long. */
  says?: (words: string) => void;
};

/** Migration that moves most of what a database holds out of it. */
const LEAVES_ROOM = 20;
/** Databases over this size take long enough to say so, bytes; how much is moved in a minute on a small board. */
const LARGE = 200 * 2 ** 20;
const PER_MINUTE = 600 * 2 ** 20;
/** Copies of before a newer program, the newest. */
const MOST_BEFORE = 2;

/** How long a second process waits for the first to finish a write, ms. */
const BUSY_MS = 5000;

export type Migration = { version: number; sql: string };

/** Numbered SQL files of a folder, in order: `0001_start.sql` is version 1. */
export function migrationsIn(folder: string): Migration[] {
  return readdirSync(folder)
    .filter((name) => /^\d{4}_.+\.sql$/.test(name))
    .sort()
    .map((name) => ({
      version: Number(name.slice(0, 4)),
      sql: readFileSync(join(folder, name), 'utf8'),
    }));
}

/**
 * Opens or makes a database and brings it up to date, one transaction a migration. An older file is copied to
 * `<path>.before-<version>` first; a newer one is refused untouched.
 */
export function openStore(
  path: string,
  migrations: readonly Migration[],
  { copies = true, says = () => undefined, free: freeAt = freeBeside }: Opening = {},
): Result<Db> {
  mkdirSync(dirname(path), { recursive: true });
  const existed = existsSync(path);
  let db: Db;
  try {
    db = new Database(path);
    db.pragma(`busy_timeout = ${BUSY_MS}`);
    db.pragma('journal_mode = WAL');
    db.pragma('synchronous = FULL');
    db.pragma('foreign_keys = ON');
    db.function('keep_bytes', keeperOf(db));
  } catch (error) {
    return fail(
      problem(
        path,
        `The database cannot be opened (${(error as Error).message}).`,
        'Put the newest backup in its place, or move it away to start afresh.',
      ),
    );
  }
  const version = db.pragma('user_version', { simple: true }) as number;
  const known = Math.max(0, ...migrations.map((one) => one.version));
  if (version > known) {
    db.close();
    return fail(
      problem(
        path,
        `The database is of version ${version}; this program knows up to ${known}.`,
        'Start the newer program that made it, or point ASH_DATA at another folder.',
      ),
    );
  }
  const open = migrations.filter((one) => one.version > version);
  if (existed && version > 0 && open.length > 0) {
    db.pragma('wal_checkpoint(TRUNCATE)');
    const size = statSync(path).size;
    const [needed, free] = [(copies ? 3 : 2) * size, freeAt(path)];
    if (free < needed) {
      db.close();
      return fail(
        problem(
          path,
          `Bringing the database up to date needs ${gigabytes(needed)} GB of room; ${gigabytes(free)} GB are free.`,
          'Make room on the disk, then start again. Nothing was changed.',
        ),
      );
    }
    if (size > LARGE)
      says(
        `The database is brought up to date: ${gigabytes(size)} GB, about ${Math.ceil(size / PER_MINUTE)} min.`,
      );
    if (copies) copyBefore(path, known);
  }
  for (const { version: to, sql } of open) {
    db.transaction(() => {
      db.exec(sql);
      db.pragma(`user_version = ${to}`);
    }).immediate();
  }
  // What moved out of it leaves room that a copy would carry along.
  if (open.some((one) => one.version === LEAVES_ROOM) && version > 0) {
    db.exec('vacuum');
    db.pragma('wal_checkpoint(TRUNCATE)');
  }
  return ok(db);
}

const gigabytes = (bytes: number): string => (bytes / 2 ** 30).toFixed(1);

/** Bytes that are free where a file is. */
function freeBeside(path: string): number {
  const { bavail, bsize } = statfsSync(dirname(path));
  return bavail * bsize;
}

/** Copies the file as it stands, and lets older such copies go. */
function copyBefore(path: string, known: number): void {
  copyFileSync(path, `${path}.before-${known}`);
  const [folder, start] = [dirname(path), `${basename(path)}.before-`];
  const copies = readdirSync(folder)
    .filter((name) => name.startsWith(start) && /^\d+$/.test(name.slice(start.length)))
    .sort((a, b) => Number(b.slice(start.length)) - Number(a.slice(start.length)));
  for (const name of copies.slice(MOST_BEFORE)) rmSync(join(folder, name), { force: true });
}
