/** Phones and other devices that were let in, each by a hash of its cookie. */

import { z } from 'zod';
import { Right } from '../core/rights';
import type { Db } from './open';

const Row = z.object({
  id: z.number(),
  name: z.string(),
  /** Whose scores come from it. */
  reader: z.string(),
  rights: z.array(Right),
  letInAt: z.string(),
  usedAt: z.string(),
});
export type Device = z.infer<typeof Row>;

const COLUMNS = `id, name, reader, rights, let_in_at as letInAt, used_at as usedAt`;

export function devices(db: Db) {
  const insert = db.prepare(
    `insert into device (name, reader, token_hash, let_in_at, used_at) values (?, ?, ?, ?, ?)`,
  );
  const byHash = db.prepare(
    `select ${COLUMNS} from device where token_hash = ? and put_out_at is null`,
  );
  const all = db.prepare(
    `select ${COLUMNS} from device where put_out_at is null order by used_at desc, id desc`,
  );
  const one = db.prepare(`select ${COLUMNS} from device where id = ? and put_out_at is null`);
  const used = db.prepare(`update device set used_at = ? where id = ?`);
  const rights = db.prepare(`update device set rights = ? where id = ? and put_out_at is null`);
  const putOut = db.prepare(`update device set put_out_at = ? where id = ? and put_out_at is null`);
  const read = (row: unknown): Device => {
    const { rights: text, ...rest } = row as { rights: string };
    return Row.parse({ ...rest, rights: JSON.parse(text) as unknown });
  };
  return {
    letIn: (name: string, reader: string, tokenHash: string, at: string): number =>
      Number(insert.run(name, reader, tokenHash, at, at).lastInsertRowid),
    /** The device with this cookie; null for one that was put out. */
    byHash(tokenHash: string): Device | null {
      const row = byHash.get(tokenHash);
      return row === undefined ? null : read(row);
    },
    /** Null for one that was put out. */
    get(id: number): Device | null {
      const row = one.get(id);
      return row === undefined ? null : read(row);
    },
    /** Those that are let in, the one used last first. */
    all: (): Device[] => all.all().map(read),
    used: (id: number, at: string): void => void used.run(at, id),
    allow: (id: number, to: readonly Right[]): boolean =>
      rights.run(JSON.stringify(to), id).changes === 1,
    putOut: (id: number, at: string): boolean => putOut.run(at, id).changes === 1,
  };
}
