/** How much room everything takes, and what could go: nothing goes by itself. */

import { existsSync, readdirSync, statfsSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import type { Db } from './open';

/** What may be deleted for good once it has been in the archive for so long, ms. */
const LONG_MS = 365 * 24 * 3_600_000;

/** Shelves whose things can be deleted for good, the one that others point to last. */
export const FORGETTABLE = ['photo', 'reading', 'print', 'kept'] as const;
export type Forgettable = (typeof FORGETTABLE)[number];

const Part = z.object({ count: z.number(), size: z.number() });
export type Part = z.infer<typeof Part>;
export type RoomTaken = {
  /** Bytes of each, and how many there are. */
  pictures: Part;
  ladders: Part;
  kept: Part;
  drawn: Part;
  database: number;
  copies: Part;
  /** Bytes on the disk that nothing takes. */
  free: number;
  /** What has been in the archive for longer than a year, by shelf. */
  long: Record<Forgettable, Part>;
};

/** Bytes that pictures take, with the smaller ones to look at. */
const PICTURES = `select count(*) as count, coalesce(sum(big.size + small.size), 0) as size from photo
  join bytes big on big.sha = jpeg_sha join bytes small on small.sha = preview_sha`;

export function picturesTake(db: Db): () => number {
  const size = db.prepare(PICTURES);
  return () => Part.parse(size.get()).size;
}

export function roomOf(db: Db, folder: string, now: number): RoomTaken {
  const part = (sql: string, ...of: unknown[]): Part => Part.parse(db.prepare(sql).get(...of));
  const bytesOf = (table: string, column: string) =>
    part(
      `select count(*) as count, coalesce(sum(size), 0) as size from
         (select distinct ${column} as sha from ${table} where ${column} is not null) join bytes using (sha)`,
    );
  const [look, picture] = [bytesOf('look', 'strip_sha'), bytesOf('print_picture', 'png_sha')];
  const backups = join(folder, 'backups');
  const copies = existsSync(backups)
    ? readdirSync(backups).map((name) => statSync(join(backups, name)).size)
    : [];
  const { bavail, bsize } = statfsSync(folder);
  const before = longAgo(now);
  const long = (sql: string) => part(sql, before);
  return {
    pictures: part(PICTURES),
    ladders: bytesOf('file', 'gcode_sha'),
    kept: bytesOf('kept', 'gcode_sha'),
    drawn: { count: look.count + picture.count, size: look.size + picture.size },
    database: ['', '-wal'].reduce((sum, end) => {
      const path = join(folder, `ash.sqlite${end}`);
      return sum + (existsSync(path) ? statSync(path).size : 0);
    }, 0),
    copies: { count: copies.length, size: copies.reduce((sum, size) => sum + size, 0) },
    free: bavail * bsize,
    long: {
      photo: long(`${PICTURES} where deleted_at < ?`),
      reading: long(`select count(*) as count, 0 as size from reading where deleted_at < ?`),
      print: long(
        `select count(*) as count, coalesce(sum((select sum(size) from photo join bytes on sha in (jpeg_sha, preview_sha)
           where photo.print_id = print.id)), 0) as size from print where deleted_at < ?`,
      ),
      kept: long(`select count(*) as count, coalesce(sum(size), 0) as size from kept
        join bytes on sha = gcode_sha where deleted_at < ? and ${FREE_KEPT}`),
    },
  };
}

/** Kept files that nothing was made of, and that never went to a machine. */
const FREE_KEPT = `not exists (select 1 from graft where kept_id = kept.id)
  and not exists (select 1 from job where kept_id = kept.id)`;

const longAgo = (now: number): string => new Date(now - LONG_MS).toISOString();

/**
 * Deletes for good what has been in the archive for longer than a year: all of it or nothing.
 *
 * @returns how many things
 */
export function forget(db: Db, shelf: Forgettable, now: number): number {
  const before = longAgo(now);
  const gone = (table: Forgettable, more = '') =>
    `select id from ${table} where deleted_at < ? ${more}`;
  const run = (sql: string) => db.prepare(sql).run(before).changes;
  return db.transaction(() => {
    if (shelf === 'photo') {
      run(`delete from look where photo_id in (${gone('photo')})`);
      return run(`delete from photo where id in (${gone('photo')})`);
    }
    if (shelf === 'kept') {
      const ids = gone('kept', `and ${FREE_KEPT}`);
      run(`delete from shake_file where kept_id in (${ids})`);
      return run(`delete from kept where id in (${ids})`);
    }
    const readings =
      shelf === 'reading'
        ? gone('reading')
        : `select id from reading where print_id in (${gone('print')})`;
    run(`delete from score_act where reading_id in (${readings})`);
    run(`delete from measured where reading_id in (${readings})`);
    const count = run(`delete from reading where id in (${readings})`);
    if (shelf === 'reading') return count;
    const prints = gone('print');
    run(`delete from look where print_id in (${prints})`);
    run(`delete from photo where print_id in (${prints})`);
    run(`delete from print_picture where print_id in (${prints})`);
    // With what it was printed by: a job without its print would be kept as one once more.
    const jobs = `select id from job where print_id in (${prints})`;
    run(`delete from heat where job_id in (${jobs})`);
    run(`delete from nudge where job_id in (${jobs})`);
    run(`update shake set job_id = null where job_id in (${jobs})`);
    run(`delete from job where print_id in (${prints})`);
    return run(`delete from print where id in (${prints})`);
  })();
}

/** Readings whose last tap is older than this have nothing to take back any more, ms. */
const SETTLED_MS = 30 * 24 * 3_600_000;
const MOST_PLACES = 2000;

/**
 * What would grow without end: taps that were taken back or scored over, in readings that nobody touched for a month;
 * places where somebody was long ago.
 */
export function tidy(db: Db, now: number): void {
  const before = new Date(now - SETTLED_MS).toISOString();
  db.transaction(() => {
    db.prepare(
      `delete from score_act where (undone = 1 or exists (
           select 1 from score_act later where later.reading_id = score_act.reading_id and later.rung = score_act.rung
             and later.criterion = score_act.criterion and later.undone = 0 and later.id > score_act.id))
         and reading_id in (select reading_id from score_act group by reading_id having max(at) < ?)`,
    ).run(before);
    db.prepare(
      `delete from place where rowid in (select rowid from place order by rowid desc limit -1 offset ?)`,
    ).run(MOST_PLACES);
  })();
}
