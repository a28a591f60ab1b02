/** Opens the one SQLite file: durable, migrated, or refused with words. */

import Database from 'better-sqlite3';
import { copyFileSync, existsSync, mkdirSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fail, ok, problem, type Result } from '../core/result';

export type Db = Database.Database;

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
export function openStore(path: string, migrations: readonly Migration[]): Result<Db> {
  mkdirSync(dirname(path), { recursive: true });
  const existed = existsSync(path);
  let db: Db;
  try {
    db = new Database(path);
    db.pragma(`busy_timeout = ${BUSY_MS}`);
    db.pragma('journal_mode = WAL');
    db.pragma('synchronous = FULL');
    db.pragma('foreign_keys = ON');
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
    copyFileSync(path, `${path}.before-${known}`);
  }
  for (const { version: to, sql } of open) {
    db.transaction(() => {
      db.exec(sql);
      db.pragma(`user_version = ${to}`);
    }).immediate();
  }
  return ok(db);
}
