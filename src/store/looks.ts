/** What was measured on pictures of prints; each picture is looked at anew in the place of what was found before. */

import { z } from 'zod';
import { KeptLook, type MeasureKept } from '../core/loupe/kept';
import { MEASURE_NAMES, type MeasureName } from '../core/loupe/measures';
import { byId, idsAsJson } from './by-id';
import { bytes } from './bytes';
import type { Db } from './open';

const Look = z.object({
  id: z.number(),
  printId: z.number(),
  /** Null for the picture of a simulated print. */
  photoId: z.number().nullable(),
  found: KeptLook,
  /** Measures that count as a reading; null where it is only looked at. */
  counted: z.array(z.enum(MEASURE_NAMES)).nullable(),
  takenAt: z.string(),
});
export type Look = z.infer<typeof Look>;

/** A picture, and what of it counts as a reading. */
export type Counted = { look: Look; measures: MeasureKept[] };

function countedIn(all: readonly Look[]): Counted[] {
  return all.flatMap((look) => {
    const measures = look.found.measures.filter(({ name }) => look.counted!.includes(name));
    return measures.length > 0 ? [{ look, measures }] : [];
  });
}

const LOOK = `look.id as id, look.print_id as printId, photo_id as photoId, found, counted, look.taken_at as takenAt`;

export function looks(db: Db) {
  const shelf = bytes(db);
  const put = db.prepare(
    `insert into look (print_id, photo_id, found, strip_sha, taken_at)
     values (@printId, @photoId, @found, @strip, @takenAt)
     on conflict (print_id, coalesce(photo_id, 0)) do update
       set found = excluded.found, strip_sha = excluded.strip_sha, taken_at = excluded.taken_at`,
  );
  const at = db.prepare(
    `select ${LOOK} from look where print_id = ? and coalesce(photo_id, 0) = coalesce(?, 0)`,
  );
  const strip = db.prepare(`select strip_sha as sha from look where id = ?`);
  const count = db.prepare(
    `update look set counted = @counted
      where print_id = @printId and coalesce(photo_id, 0) = coalesce(@photoId, 0)`,
  );
  // A picture that is in the archive counts no more than a reading that is there.
  const counting = db.prepare(
    `select ${LOOK} from look left join photo on photo.id = look.photo_id
      where look.print_id = ? and counted is not null and photo.deleted_at is null order by look.id`,
  );
  const ofPrint = db.prepare(
    `select ${LOOK} from look left join photo on photo.id = look.photo_id
      where look.print_id = ? and photo.deleted_at is null order by look.id`,
  );
  const countingOf = db.prepare(
    `select ${LOOK}, look.print_id as of from look left join photo on photo.id = look.photo_id
      where look.print_id in (select value from json_each(?)) and counted is not null
        and photo.deleted_at is null order by look.id`,
  );
  const read = (row: unknown): Look => {
    const { found, counted, ...rest } = row as { found: string; counted: string | null };
    return Look.parse({
      ...rest,
      found: JSON.parse(found) as unknown,
      counted: counted === null ? null : (JSON.parse(counted) as unknown),
    });
  };
  return {
    /** Keeps what was found, in the place of what was found on the same picture before. */
    put(row: Omit<Look, 'id' | 'counted'> & { strip: Uint8Array | null }): void {
      db.transaction(() => {
        const strip = row.strip && shelf.keep(row.strip);
        put.run({ ...row, strip, found: JSON.stringify(row.found) });
      })();
    },
    of(printId: number, photoId: number | null): Look | null {
      const row = at.get(printId, photoId);
      return row === undefined ? null : read(row);
    },
    /** All looks of a print whose pictures are not in the archive, oldest first. */
    ofPrint: (printId: number): Look[] => ofPrint.all(printId).map(read),
    /** Says which measures count as a reading; none at all takes it out. @returns whether there is such a look */
    count: (printId: number, photoId: number | null, names: readonly MeasureName[]): boolean =>
      count.run({
        printId,
        photoId,
        counted: names.length > 0 ? JSON.stringify(names) : null,
      }).changes > 0,
    /** What counts of the pictures of a print, oldest first. */
    counted: (printId: number): Counted[] => countedIn(counting.all(printId).map(read)),
    /** The same of many prints, by print. */
    countedOf: (ids: readonly number[]): Map<number, Counted[]> =>
      new Map(
        [...byId(countingOf.all(idsAsJson(ids)), read)].map(([id, all]) => [id, countedIn(all)]),
      ),
    /** The straightened picture, JPEG. */
    strip(id: number): Uint8Array | null {
      const row = strip.get(id) as { sha: string | null } | undefined;
      return row?.sha ? shelf.get(row.sha) : null;
    },
  };
}
