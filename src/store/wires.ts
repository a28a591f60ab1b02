/** Machines on the wire: how each is reached, what was put into it, and what was printed over it. */

import { z } from 'zod';
import { SettingName, Values } from '../core/bench/settings';
import type { Owed } from '../core/link-state';
import type { Nudge } from '../core/plan/nudged';
import { byId, idsAsJson } from './by-id';
import type { Db } from './open';

const Wire = z.object({ address: z.string(), simulated: z.string().nullable() });
const Put = z.object({
  id: z.number(),
  machineId: z.number(),
  setting: SettingName,
  value: z.number(),
  before: z.number().nullable(),
  stored: z.number().transform((one) => one === 1),
  simulated: z.number().transform((one) => one === 1),
  at: z.string(),
  takenBackAt: z.string().nullable(),
});
export type Put = z.infer<typeof Put>;
export type NewPut = Pick<Put, 'machineId' | 'setting' | 'value' | 'before' | 'simulated' | 'at'>;

const Job = z.object({
  id: z.number(),
  machineId: z.number(),
  fileId: z.number(),
  endedAt: z.string(),
  simulated: z.string().nullable(),
  /** What a simulated machine had in force when it began. */
  had: Values,
});
export type FinishedJob = z.infer<typeof Job>;

const SentJob = z.object({
  id: z.number(),
  machineId: z.number(),
  fileId: z.number(),
  line: z.number(),
  simulated: z.string().nullable(),
  endedAt: z.string().nullable(),
  /** What nudges come to that were not taken back, mm upward. */
  nudged: z.number(),
});
export type SentJob = z.infer<typeof SentJob>;

const celsius = z.number();
const HeatRow = z.tuple([z.number(), celsius, celsius, celsius, celsius, z.number().optional()]);
const Run = z.object({ startedAt: z.string(), endedAt: z.string(), heat: z.array(HeatRow) });
export type Run = z.infer<typeof Run>;

const OwedRow = z.object({
  machine: z.number(),
  name: z.string(),
  address: z.string(),
  why: z.string(),
  since: z.string(),
  state: z.enum(['unheard', 'told', 'stuck']),
});

const NudgeRow = z.object({
  line: z.number(),
  mm: z.number(),
  total: z.number(),
  x: z.number().nullable(),
  y: z.number().nullable(),
  at: z.string(),
});
const NUDGE = `line, mm, total, x, y, at`;

const PUT = `id, machine_id as machineId, setting, value, before, stored, simulated, at,
  taken_back_at as takenBackAt`;

function parsed(text: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return null;
  }
}

/** States of a job that is under way. */
const UNDER_WAY = `('printing', 'pausing', 'paused', 'stopping', 'lost')`;

export function wires(db: Db) {
  const one = db.prepare(`select address, simulated from wire where machine_id = ?`);
  const add = db.prepare(
    `insert into put (machine_id, setting, value, before, simulated, at)
     values (@machineId, @setting, @value, @before, @simulated, @at)`,
  );
  const get = db.prepare(`select ${PUT} from put where id = ?`);
  const list = db.prepare(`select ${PUT} from put where machine_id = ? order by id desc limit ?`);
  const inForce = db.prepare(
    `select ${PUT} from put where id in (
       select max(id) from put where machine_id = ? and taken_back_at is null group by setting)`,
  );
  const stored = db.prepare(`update put set stored = 1 where id = ?`);
  const owed = db.prepare(
    `select machine_id as machine, name, address, why, since, state from owed
      where why is not null order by since`,
  );
  const finished = db.prepare(
    `select id, machine_id as machineId, file_id as fileId, ended_at as endedAt, simulated, had from job
      where state = 'finished' and print_id is null and file_id is not null and ended_at is not null`,
  );
  const nudgesOfJob = db.prepare(`select ${NUDGE} from nudge where job_id = ? order by id`);
  const nudgesOfPrint = db.prepare(
    `select ${NUDGE} from nudge where job_id in (select id from job where print_id = ?) order by id`,
  );
  const nudgesOfPrints = db.prepare(
    `select (select print_id from job where job.id = job_id) as of, ${NUDGE} from nudge
      where job_id in (select id from job where print_id in (select value from json_each(?))) order by id`,
  );
  const underWay = db
    .prepare(`select name from job where state in ${UNDER_WAY} and ended_at is null limit 1`)
    .pluck();
  const job = db.prepare(
    `select id, machine_id as machineId, file_id as fileId, line, simulated, ended_at as endedAt, nudged
       from job where id = ?`,
  );
  const run = db.prepare(
    `select id, started_at as startedAt, ended_at as endedAt from job where print_id = ?`,
  );
  const heat = db.prepare(`select rows from heat where job_id = ? order by id`).pluck();
  const printed = db.prepare(`update job set print_id = ? where id = ? and print_id is null`);
  const back = db.prepare(
    `update put set taken_back_at = ? where id = ? and taken_back_at is null`,
  );
  return {
    of(machineId: number): { address: string; simulated: string | null } | null {
      const row = one.get(machineId);
      return row === undefined ? null : Wire.parse(row);
    },
    put: (row: NewPut): number =>
      Number(add.run({ ...row, simulated: row.simulated ? 1 : 0 }).lastInsertRowid),
    get(id: number): Put | null {
      const row = get.get(id);
      return row === undefined ? null : Put.parse(row);
    },
    /** The newest first. */
    puts: (machineId: number, most: number): Put[] =>
      list.all(machineId, most).map((row) => Put.parse(row)),
    /** What was put into a machine last, one of each setting. */
    inForce: (machineId: number): Put[] => inForce.all(machineId).map((row) => Put.parse(row)),
    /** It was seen to be stored. */
    stored: (id: number): void => void stored.run(id),
    /** Machines that may be hot after something ended, the longest first; written by the link. */
    owed: (): Owed[] => z.array(OwedRow).parse(owed.all()),
    /** Ladders that came to their end on a machine and do not stand as printed yet. */
    finished: (): FinishedJob[] =>
      finished.all().flatMap((row) => {
        const { had, ...job } = row as { had: string | null };
        // One that cannot be read is no trouble of the others.
        const read = Job.safeParse({ ...job, had: parsed(had ?? '{}') });
        return read.success ? [read.data] : [];
      }),
    /** Of one job, or of a printed copy; the oldest first. */
    nudges: (id: number): Nudge[] => nudgesOfJob.all(id).map((row) => NudgeRow.parse(row)),
    nudgesOf: (print: number): Nudge[] =>
      nudgesOfPrint.all(print).map((row) => NudgeRow.parse(row)),
    /** Of many printed copies, by copy. */
    nudgesOfPrints: (ids: readonly number[]): Map<number, Nudge[]> =>
      byId(nudgesOfPrints.all(idsAsJson(ids)), (row) => NudgeRow.parse(row)),
    /** Name of a file that is on its way to a machine; null where none is. */
    underWay: (): string | null => (underWay.get() as string | undefined) ?? null,
    /** A file that went to a machine; null for one that is no ladder's, or unknown. */
    job(id: number): SentJob | null {
      const row = SentJob.safeParse(job.get(id));
      return row.success ? row.data : null;
    },
    /** When a copy was printed over the wire, and how warm it was; null for one that was not. */
    runOf(print: number): Run | null {
      const row = run.get(print) as { id: number } | undefined;
      if (row === undefined) return null;
      const pieces = heat.all(row.id) as string[];
      return Run.parse({ ...row, heat: pieces.flatMap((text) => JSON.parse(text) as unknown[]) });
    },
    printed: (id: number, print: number): boolean => printed.run(print, id).changes === 1,
    takenBack: (id: number, at: string): boolean => back.run(at, id).changes === 1,
  };
}
