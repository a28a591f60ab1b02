/** Files from elsewhere, kept whole with a bench. */

import { createHash } from 'node:crypto';
import { promisify } from 'node:util';
import { deflate, inflate } from 'node:zlib';
import { z } from 'zod';
import { bytes } from './bytes';
import type { Db } from './open';

const Kept = z.object({
  id: z.number(),
  benchId: z.number(),
  name: z.string(),
  bytes: z.number(),
  keptAt: z.string(),
});
export type Kept = z.infer<typeof Kept>;

const COLUMNS = `id, bench_id as benchId, name, bytes, kept_at as keptAt`;

// Off the main thread: a hundred megabytes take seconds.
const [pack, unpack] = [promisify(deflate), promisify(inflate)];

export function kept(db: Db) {
  const shelf = bytes(db);
  const insert = db.prepare(
    `insert into kept (bench_id, name, sha256, bytes, gcode_sha, kept_at) values (?, ?, ?, ?, ?, ?)
     on conflict (bench_id, sha256) do update set name = excluded.name, deleted_at = null
     returning id`,
  );
  const one = db.prepare(`select ${COLUMNS} from kept where id = ?`);
  const ofBench = db.prepare(
    `select ${COLUMNS} from kept where bench_id = ? and deleted_at is null
        and id not in (select kept_id from shake_file) order by id desc limit ?`,
  );
  const body = db.prepare(`select gcode_sha as sha from kept where id = ?`);
  const copy = db.prepare(
    `insert into kept (bench_id, name, sha256, bytes, gcode_sha, kept_at)
     select ?, name, sha256, bytes, gcode_sha, ? from kept where id = ?
     on conflict (bench_id, sha256) do update set deleted_at = null
     returning id`,
  );
  return {
    /** Keeps a file; the same bytes with the same bench are kept once. @returns its id */
    async keep(benchId: number, name: string, gcode: Uint8Array, at: string): Promise<number> {
      const sha256 = createHash('sha256').update(gcode).digest('hex');
      const packed = await shelf.keepLarge(await pack(gcode));
      const row = insert.get(benchId, name, sha256, gcode.length, packed, at);
      return z.object({ id: z.number() }).parse(row).id;
    },
    get(id: number): Kept | null {
      const row = one.get(id);
      return row === undefined ? null : Kept.parse(row);
    },
    async body(id: number): Promise<Uint8Array | null> {
      const row = body.get(id) as { sha: string } | undefined;
      const packed = row && shelf.get(row.sha);
      return packed ? unpack(packed) : null;
    },
    /** The same file with another bench. @returns its id there; null for one that is gone */
    copyTo(id: number, benchId: number, at: string): number | null {
      const row = copy.get(benchId, at, id);
      return row === undefined ? null : z.object({ id: z.number() }).parse(row).id;
    },
    /** Newest first. */
    ofBench: (benchId: number, most = -1): Kept[] =>
      ofBench.all(benchId, most).map((row) => Kept.parse(row)),
  };
}
