/** Machines and filaments: whole descriptions under an id. */

import { z } from 'zod';
import { Filament } from '../core/bench/bench';
import { Machine } from '../core/bench/machine';
import type { Db } from './open';

const Row = z.object({ id: z.number(), body: z.string() });

export type Stored<T> = { id: number; body: T };

function shelf<T>(db: Db, table: 'machine' | 'filament', schema: z.ZodType<T>) {
  const insert = db.prepare(`insert into ${table} (body) values (?)`);
  const update = db.prepare(`update ${table} set body = ? where id = ?`);
  const one = db.prepare(`select id, body from ${table} where id = ?`);
  const all = db.prepare(`select id, body from ${table} where deleted_at is null order by id`);
  const mark = db.prepare(`update ${table} set deleted_at = ? where id = ?`);
  const unpack = (row: unknown): Stored<T> => {
    const { id, body } = Row.parse(row);
    return { id, body: schema.parse(JSON.parse(body)) };
  };
  return {
    add: (body: T): number => Number(insert.run(JSON.stringify(body)).lastInsertRowid),
    change: (id: number, body: T): boolean => update.run(JSON.stringify(body), id).changes === 1,
    /** Also one that was put away: prints made with it still need it. */
    get(id: number): Stored<T> | null {
      const row = one.get(id);
      return row === undefined ? null : unpack(row);
    },
    all: (): Stored<T>[] => all.all().map(unpack),
    /** Takes it out of the lists; `restore` brings it back. */
    putAway: (id: number, at: string): boolean => mark.run(at, id).changes === 1,
    restore: (id: number): boolean => mark.run(null, id).changes === 1,
  };
}

export const machines = (db: Db) => shelf(db, 'machine', Machine);
export const filaments = (db: Db) => shelf(db, 'filament', Filament);
