/** What was found by shaking the machine of a bench, axis by axis, and the files that shook it. */

import { z } from 'zod';
import { KeptShake } from '../core/shake/kept';
import { SHAKE_AXES, type ShakeAxis } from '../core/shake/marks';
import { Simulated } from './ladders';
import type { Db } from './open';

const Shake = z.object({
  id: z.number(),
  benchId: z.number(),
  axis: z.enum(SHAKE_AXES),
  /** File of the record, or how it came else. */
  name: z.string(),
  found: KeptShake,
  /** Null for a real machine. */
  simulated: Simulated.nullable(),
  takenAt: z.string(),
});
export type Shake = z.infer<typeof Shake>;

/** A run over the wire on a simulated machine that has come to its end, and of which no record was kept yet. */
const Run = z.object({
  job: z.number(),
  keptId: z.number(),
  axis: z.enum(SHAKE_AXES),
  simulated: z.string(),
  endedAt: z.string(),
});
export type ShakeRun = z.infer<typeof Run>;

const COLUMNS = `id, bench_id as benchId, axis, name, found, simulated, taken_at as takenAt`;

export function shakes(db: Db) {
  const insert = db.prepare(
    `insert into shake (bench_id, axis, name, found, simulated, job_id, taken_at)
     values (@benchId, @axis, @name, @found, @simulated, @job, @takenAt)
     on conflict (job_id) do nothing`,
  );
  const one = db.prepare(`select ${COLUMNS} from shake where id = ? and deleted_at is null`);
  const ofBench = db.prepare(
    `select ${COLUMNS} from shake where bench_id = ? and deleted_at is null order by id desc limit ?`,
  );
  const mark = db.prepare(
    `insert into shake_file (kept_id, axis) values (?, ?)
     on conflict (kept_id) do update set axis = excluded.axis`,
  );
  const runs = db.prepare(
    `select job.id as job, job.kept_id as keptId, shake_file.axis as axis, simulated, ended_at as endedAt
       from job join shake_file on shake_file.kept_id = job.kept_id
      where state = 'finished' and simulated is not null and ended_at is not null
        and not exists (select 1 from shake where job_id = job.id)`,
  );
  const read = (row: unknown): Shake => {
    const { found, simulated, ...rest } = row as { found: string; simulated: string | null };
    const played: unknown = simulated === null ? null : JSON.parse(simulated);
    return Shake.parse({ ...rest, found: JSON.parse(found) as unknown, simulated: played });
  };
  return {
    /** @param job the run that it was recorded in; the same run is kept once. @returns its id */
    add(row: Omit<Shake, 'id'>, job: number | null = null): number {
      const { found, simulated, ...rest } = row;
      return Number(
        insert.run({
          ...rest,
          job,
          found: JSON.stringify(found),
          simulated: simulated && JSON.stringify(simulated),
        }).lastInsertRowid,
      );
    },
    get(id: number): Shake | null {
      const row = one.get(id);
      return row === undefined ? null : read(row);
    },
    /** Newest first. */
    ofBench: (benchId: number, most: number): Shake[] => ofBench.all(benchId, most).map(read),
    /** Says that a kept file shakes a machine. */
    markFile: (keptId: number, axis: ShakeAxis): void => void mark.run(keptId, axis),
    runs: (): ShakeRun[] => runs.all().map((row) => Run.parse(row)),
  };
}
