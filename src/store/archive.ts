/** The archive: everything that was put away, with the way back. */

import type { Statement } from 'better-sqlite3';
import { z } from 'zod';
import type { Db } from './open';

/** What can be put away, by its table. */
export const SHELVES = {
  machine: 'machine',
  filament: 'filament',
  bench: 'bench',
  ladder: 'ladder',
  print: 'print',
  reading: 'reading',
  file: 'kept',
  photo: 'photo',
  shake: 'shake',
} as const;
export const Shelf = z.enum(Object.keys(SHELVES) as [keyof typeof SHELVES]);
export type Shelf = z.infer<typeof Shelf>;

const Row = z.object({
  shelf: Shelf,
  id: z.number(),
  /** Name of the thing, or kind of the ladder that it belongs to. */
  name: z.string(),
  /** Bench that it belongs to, or what else tells it apart. */
  where: z.string().nullable(),
  at: z.string(),
});
export type Archived = z.infer<typeof Row>;

const BENCH = (id: string) =>
  `(select machine.body ->> '$.name' || ' · ' || bore || ' mm · ' || (filament.body ->> '$.name')
      from bench join machine on machine.id = machine_id join filament on filament.id = filament_id
     where bench.id = ${id})`;

const ALL = `
  select 'machine' as shelf, id, body ->> '$.name' as name, null as "where", deleted_at as at from machine
  union all
  select 'filament', id, body ->> '$.name', body ->> '$.material', deleted_at from filament
  union all
  select 'bench', id, ${BENCH('bench.id')}, null, deleted_at from bench
  union all
  select 'ladder', id, kind, ${BENCH('bench_id')}, deleted_at from ladder
  union all
  select 'print', print.id, ladder.kind, ${BENCH('ladder.bench_id')}, print.deleted_at
    from print join file on file.id = file_id join ladder on ladder.id = ladder_id
  union all
  select 'reading', reading.id, ladder.kind, ${BENCH('ladder.bench_id')}, reading.deleted_at
    from reading join print on print.id = print_id join file on file.id = file_id
    join ladder on ladder.id = ladder_id
  union all
  select 'photo', photo.id, ladder.kind, ${BENCH('ladder.bench_id')}, photo.deleted_at
    from photo join print on print.id = print_id join file on file.id = file_id
    join ladder on ladder.id = ladder_id
  union all
  select 'file', id, name, ${BENCH('bench_id')}, deleted_at from kept
  union all
  select 'shake', id, axis, ${BENCH('bench_id')}, deleted_at from shake`;

export function archive(db: Db) {
  const all = db.prepare(
    `select * from (${ALL}) where at is not null order by at desc, id desc limit ?`,
  );
  const marks = Object.fromEntries(
    Object.entries(SHELVES).map(([shelf, table]) => [
      shelf,
      db.prepare(`update ${table} set deleted_at = ? where id = ?`),
    ]),
  ) as Record<Shelf, Statement<[string | null, number]>>;
  return {
    /** Newest first. */
    all: (most: number): Archived[] => all.all(most).map((row) => Row.parse(row)),
    putAway: (shelf: Shelf, id: number, at: string): boolean =>
      marks[shelf].run(at, id).changes === 1,
    restore: (shelf: Shelf, id: number): boolean => marks[shelf].run(null, id).changes === 1,
  };
}
