/**
 * The ledger: a bench's current values, and every value that stood before. A value of a real machine and one of a
 * simulated machine are two: each has its own current and its own history.
 */

import { z } from 'zod';
import { SETTING_NAMES } from '../core/bench/settings';
import { Base } from '../core/route/base';
import { Rows } from '../core/reading/rows';
import type { Db } from './open';

const Entry = z.object({
  id: z.number(),
  benchId: z.number(),
  setting: z.enum(SETTING_NAMES),
  value: z.number(),
  /** 80 % range; null for a value entered by hand. */
  low: z.number().nullable(),
  high: z.number().nullable(),
  base: Base,
  ladderId: z.number().nullable(),
  /** Found on a simulated machine only. */
  simulated: z.boolean(),
  foundAt: z.string(),
  replacedAt: z.string().nullable(),
  /** When it was put into the machine itself; null while only files bring it. */
  carriedAt: z.string().nullable(),
  /** A table that was found with it. */
  rows: Rows.nullable(),
  /** The shake that it was found by. */
  shakeId: z.number().nullable(),
  /** When the print was made that proved it, and by which ladder. */
  provenAt: z.string().nullable(),
  provenBy: z.number().nullable(),
});
export type Entry = z.infer<typeof Entry>;
export type NewEntry = Omit<
  Entry,
  'id' | 'replacedAt' | 'carriedAt' | 'rows' | 'provenAt' | 'provenBy' | 'shakeId'
> &
  Partial<Pick<Entry, 'rows' | 'shakeId'>>;

const COLUMNS = `id, bench_id as benchId, setting, value, low, high, base, ladder_id as ladderId,
  simulated, found_at as foundAt, replaced_at as replacedAt,
  carried_at as carriedAt, rows, shake_id as shakeId, proven_at as provenAt, proven_by as provenBy`;

export function ledger(db: Db) {
  const current = db.prepare(
    `select ${COLUMNS} from ledger where bench_id = ? and replaced_at is null
      order by setting, simulated`,
  );
  const every = db.prepare(
    `select ${COLUMNS} from ledger where bench_id = ? order by setting, id desc`,
  );
  const newest = db.prepare(
    `select * from (select ${COLUMNS} from ledger where bench_id = ? order by id desc limit ?)
      order by setting, id desc`,
  );
  const times = db.prepare(
    `select setting, simulated, count(*) as times from ledger where bench_id = ? group by setting, simulated`,
  );
  const retire = db.prepare(
    `update ledger set replaced_at = ?
      where bench_id = ? and setting = ? and simulated = ? and replaced_at is null`,
  );
  const insert = db.prepare(
    `insert into ledger (bench_id, setting, value, low, high, base, ladder_id, simulated, found_at, rows, shake_id)
     values (@benchId, @setting, @value, @low, @high, @base, @ladderId, @simulated, @foundAt, @rows, @shakeId)`,
  );
  const remove = db.prepare(`delete from ledger where id = ? and replaced_at is null`);
  const revive = db.prepare(
    `update ledger set replaced_at = null
      where id = (select max(id) from ledger where bench_id = ? and setting = ? and simulated = ?)`,
  );
  const carry = db.prepare(`update ledger set carried_at = ? where id = ? and replaced_at is null`);
  const prove = db.prepare(
    `update ledger set proven_at = ?, proven_by = ? where id = ? and replaced_at is null`,
  );
  const one = db.prepare(`select ${COLUMNS} from ledger where id = ?`);
  const read = (row: unknown): Entry => {
    const { base, simulated, rows, ...rest } = row as {
      base: string;
      simulated: number;
      rows: string | null;
    };
    const on: unknown = JSON.parse(base);
    const table: unknown = rows === null ? null : JSON.parse(rows);
    return Entry.parse({ ...rest, base: on, simulated: simulated === 1, rows: table });
  };
  return {
    /** Real values before simulated ones of the same setting. */
    current: (benchId: number): Entry[] => current.all(benchId).map(read),
    /** Every value, by setting, the newest first. */
    all: (benchId: number): Entry[] => every.all(benchId).map(read),
    /** The old value goes into the history, the new one stands. @returns its id */
    /** The newest values, by setting, the newest first. */
    newest: (benchId: number, most: number): Entry[] => newest.all(benchId, most).map(read),
    /** How often each was found. */
    times: (benchId: number): ((setting: Entry['setting'], simulated: boolean) => number) => {
      const all = times.all(benchId) as { setting: string; simulated: number; times: number }[];
      return (setting, simulated) =>
        all.find((one) => one.setting === setting && one.simulated === Number(simulated))?.times ??
        0;
    },
    put: db.transaction((entry: NewEntry): number => {
      const simulated = entry.simulated ? 1 : 0;
      retire.run(entry.foundAt, entry.benchId, entry.setting, simulated);
      const rows = entry.rows ? JSON.stringify(entry.rows) : null;
      const { shakeId = null } = entry;
      const row = { ...entry, shakeId, base: JSON.stringify(entry.base), simulated, rows };
      return Number(insert.run(row).lastInsertRowid);
    }),
    /** Says that a value is in the machine itself now, or with null that it is not. */
    carry: (id: number, at: string | null): boolean => carry.run(at, id).changes === 1,
    /** Says that a print proved a value, or with null that none did. */
    prove: (id: number, by: { at: string; ladder: number } | null): boolean =>
      prove.run(by?.at ?? null, by?.ladder ?? null, id).changes === 1,
    /** Undoes the newest put: the value before it stands again. */
    takeBack: db.transaction((id: number): boolean => {
      const row = one.get(id);
      if (row === undefined || remove.run(id).changes === 0) return false;
      const { benchId, setting, ladderId, shakeId, foundAt, simulated } = read(row);
      const mark = simulated ? 1 : 0;
      revive.run(benchId, setting, mark);
      // One finding may have put down several values: they go together.
      for (const raw of current.all(benchId)) {
        const other = read(raw);
        const together =
          (ladderId !== null || shakeId !== null) &&
          other.ladderId === ladderId &&
          other.shakeId === shakeId &&
          other.foundAt === foundAt &&
          other.simulated === simulated;
        if (!together) continue;
        remove.run(other.id);
        revive.run(benchId, other.setting, mark);
      }
      return true;
    }),
  };
}
