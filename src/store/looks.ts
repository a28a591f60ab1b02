/** What was measured on pictures of prints; each picture is looked at anew in the place of what was found before. */

import { z } from 'zod';
import { KeptLook } from '../core/loupe/kept';
import type { Db } from './open';

const Look = z.object({
  id: z.number(),
  printId: z.number(),
  /** Null for the picture of a simulated print. */
  photoId: z.number().nullable(),
  found: KeptLook,
  takenAt: z.string(),
});
export type Look = z.infer<typeof Look>;

const COLUMNS = `id, print_id as printId, photo_id as photoId, found, taken_at as takenAt`;

export function looks(db: Db) {
  const put = db.prepare(
    `insert into look (print_id, photo_id, found, strip, taken_at)
     values (@printId, @photoId, @found, @strip, @takenAt)
     on conflict (print_id, coalesce(photo_id, 0)) do update
       set found = excluded.found, strip = excluded.strip, taken_at = excluded.taken_at`,
  );
  const at = db.prepare(
    `select ${COLUMNS} from look where print_id = ? and coalesce(photo_id, 0) = coalesce(?, 0)`,
  );
  const strip = db.prepare(`select strip from look where id = ?`);
  return {
    /** Keeps what was found, in the place of what was found on the same picture before. */
    put(row: Omit<Look, 'id'> & { strip: Uint8Array | null }): void {
      put.run({ ...row, found: JSON.stringify(row.found) });
    },
    of(printId: number, photoId: number | null): Look | null {
      const row = at.get(printId, photoId) as { found: string } | undefined;
      return row ? Look.parse({ ...row, found: JSON.parse(row.found) as unknown }) : null;
    },
    /** The straightened picture, JPEG. */
    strip: (id: number): Uint8Array | null =>
      (strip.get(id) as { strip: Buffer | null } | undefined)?.strip ?? null,
  };
}
