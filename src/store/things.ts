/** Machines and filaments: whole descriptions under an id. */

import { z } from 'zod';
import { Filament } from '../core/bench/bench';
import { Machine } from '../core/bench/machine';
import type { Db } from './open';

const Row = z.object({ id: z.number(), body: z.string(), revision: z.number() });
const Listed = z.object({ id: z.number(), body: z.string() });

export type Stored<T> = {
  id: number;
  body: T;
  /** Grows with every change; who saves says which one was seen. */
  revision: number;
};

function shelf<T>(db: Db, table: 'machine' | 'filament', schema: z.ZodType<T>) {
  const insert = db.prepare(`insert into ${table} (body) values (?)`);
  const update = db.prepare(`update ${table} set body = ?, revision = revision + 1 where id = ?`);
  const one = db.prepare(`select id, body, revision from ${table} where id = ?`);
  const all = db.prepare(
    `select id, body, revision from ${table} where deleted_at is null order by id`,
  );
  const names = db.prepare(
    `select id, body ->> '$.name' as body from ${table}
      where deleted_at is null and (@like = '' or instr(lower(body ->> '$.name'), lower(@like)) > 0)
      order by id desc limit @most`,
  );
  const newest = db.prepare(
    `select id, body, revision from ${table}
      where deleted_at is null and (@like = '' or instr(lower(body ->> '$.name'), lower(@like)) > 0)
      order by id desc limit @most`,
  );
  const count = db.prepare(`select count(*) as count from ${table} where deleted_at is null`);
  const unpack = (row: unknown): Stored<T> => {
    const { id, body, revision } = Row.parse(row);
    return { id, body: schema.parse(JSON.parse(body)), revision };
  };
  return {
    add: (body: T): number => Number(insert.run(JSON.stringify(body)).lastInsertRowid),
    change: (id: number, body: T): boolean => update.run(JSON.stringify(body), id).changes === 1,
    /** Names of the newest, of those that hold `like`; nothing else is read. */
    names: (most: number, like = ''): { id: number; name: string }[] =>
      names.all({ like, most }).map((row) => {
        const { id, body } = Listed.parse(row);
        return { id, name: body };
      }),
    /** The newest with all that they are, of those that hold `like`. */
    newest: (most: number, like = ''): Stored<T>[] => newest.all({ like, most }).map(unpack),
    count: (): number => (count.get() as { count: number }).count,
    /** Also one that was put away: prints made with it still need it. */
    get(id: number): Stored<T> | null {
      const row = one.get(id);
      return row === undefined ? null : unpack(row);
    },
    all: (): Stored<T>[] => all.all().map(unpack),
  };
}

export const machines = (db: Db) => shelf(db, 'machine', Machine);
export const filaments = (db: Db) => shelf(db, 'filament', Filament);
