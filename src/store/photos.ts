/** Pictures that people took of a print: kept whole, with a smaller one to look at. */

import { z } from 'zod';
import { bytes } from './bytes';
import type { Db } from './open';

const Row = z.object({
  id: z.number(),
  /** Name that it was given where it was taken. */
  uid: z.string(),
  width: z.number(),
  height: z.number(),
  reader: z.string(),
  takenAt: z.string(),
  /** Rung that it shows alone, from 0 at the bottom; null where it shows the print. */
  rung: z.number().int().min(0).nullable(),
});
export type Photo = z.infer<typeof Row>;

export type NewPhoto = {
  uid: string;
  jpeg: Uint8Array;
  preview: Uint8Array;
  width: number;
  height: number;
  reader: string;
  takenAt: string;
  rung?: number | null;
};

const COLUMNS = `id, uid, width, height, reader, taken_at as takenAt, rung`;

export function photos(db: Db) {
  const insert = db.prepare(
    `insert into photo (print_id, uid, jpeg_sha, preview_sha, width, height, reader, taken_at, rung)
     values (@printId, @uid, @jpeg, @preview, @width, @height, @reader, @takenAt, @rung)
     on conflict (uid) do nothing`,
  );
  const known = db.prepare(`select 1 from photo where uid = ?`);
  const printOf = db.prepare(`select print_id as print from photo where id = ?`);
  const ofPrint = db.prepare(
    `select ${COLUMNS} from photo where print_id = ? and deleted_at is null order by id`,
  );
  const hashes = db.prepare(
    `select jpeg_sha as jpeg, preview_sha as preview from photo where id = ?`,
  );
  const shelf = bytes(db);
  const add = db.transaction((printId: number, { jpeg, preview, ...photo }: NewPhoto) => {
    insert.run({
      printId,
      rung: null,
      ...photo,
      jpeg: shelf.keep(jpeg),
      preview: shelf.keep(preview),
    });
  });
  const revision = db.prepare(`select revision from print where id = ?`);
  return {
    /** Keeps a picture; the same name is kept once. */
    add: (printId: number, photo: NewPhoto): void => add(printId, photo),
    has: (uid: string): boolean => known.get(uid) !== undefined,
    printOf: (id: number): number | null =>
      (printOf.get(id) as { print: number } | undefined)?.print ?? null,
    /** Oldest first. */
    ofPrint: (printId: number): Photo[] => ofPrint.all(printId).map((row) => Row.parse(row)),
    /** A JPEG: as it was taken, or smaller. */
    bytes(id: number, which: 'jpeg' | 'preview'): Uint8Array | null {
      const row = hashes.get(id) as { jpeg: string; preview: string } | undefined;
      return row === undefined ? null : shelf.get(row[which]);
    },
    /** Grows with every picture that comes, is archived, or comes back. */
    revision: (printId: number): number =>
      (revision.get(printId) as { revision: number } | undefined)?.revision ?? 0,
  };
}
