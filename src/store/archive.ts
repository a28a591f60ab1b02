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

/** How each shelf is listed: its row, and where it stands. */
const LISTED = [
  `select 'machine' as shelf, machine.id as id, body ->> '$.name' as name, null as "where", machine.deleted_at as at from machine`,
  `select 'filament', filament.id, body ->> '$.name', body ->> '$.material', filament.deleted_at from filament`,
  `select 'bench', bench.id, ${BENCH('bench.id')}, null, bench.deleted_at from bench`,
  `select 'ladder', ladder.id, kind, ${BENCH('bench_id')}, ladder.deleted_at from ladder`,
  `select 'print', print.id, ladder.kind, ${BENCH('ladder.bench_id')}, print.deleted_at
    from print join file on file.id = file_id join ladder on ladder.id = ladder_id`,
  `select 'reading', reading.id, ladder.kind, ${BENCH('ladder.bench_id')}, reading.deleted_at
    from reading join print on print.id = print_id join file on file.id = file_id
    join ladder on ladder.id = ladder_id`,
  `select 'photo', photo.id, ladder.kind, ${BENCH('ladder.bench_id')}, photo.deleted_at
    from photo join print on print.id = print_id join file on file.id = file_id
    join ladder on ladder.id = ladder_id`,
  `select 'file', kept.id, name, ${BENCH('bench_id')}, kept.deleted_at from kept`,
  `select 'shake', shake.id, axis, ${BENCH('bench_id')}, shake.deleted_at from shake`,
];

/** Of each shelf no more than can be listed, by an index of what is away: what is not is never looked at. */
const ALL = LISTED.map((row) => {
  const table = /(\w+)\.deleted_at/.exec(row)![1]!;
  return `select * from (${row} where ${table}.deleted_at is not null
    order by ${table}.deleted_at desc limit @most)`;
}).join(' union all ');

export function archive(db: Db) {
  const all = db.prepare(`select * from (${ALL}) order by at desc, id desc limit @most`);
  const marks = Object.fromEntries(
    Object.entries(SHELVES).map(([shelf, table]) => [
      shelf,
      db.prepare(`update ${table} set deleted_at = ? where id = ?`),
    ]),
  ) as Record<Shelf, Statement<[string | null, number]>>;
  return {
    /** Newest first. */
    all: (most: number): Archived[] => all.all({ most }).map((row) => Row.parse(row)),
    putAway: (shelf: Shelf, id: number, at: string): boolean =>
      marks[shelf].run(at, id).changes === 1,
    restore: (shelf: Shelf, id: number): boolean => marks[shelf].run(null, id).changes === 1,
  };
}
