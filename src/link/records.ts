/** What the link keeps: machines' addresses and jobs, in the one SQLite file of the product. */

import Database from 'better-sqlite3';
import { inflateSync } from 'node:zlib';
import { z } from 'zod';
import type { HeatRow, Progress } from '../core/link-state';
import { folderOf, readBytes } from '../store/bytes';
import { short } from '../core/numbers';
import type { Nudge } from '../core/plan/nudged';

/** A long write of the server may not hold up a print: what cannot be kept now is kept a moment later. */
const BUSY_MS = 100;
const Wire = z.object({
  machine: z.number(),
  address: z.string(),
  simulated: z.string().nullable(),
  tools: z.number(),
  idleMin: z.number(),
});

const CutShort = z.object({
  id: z.number(),
  machine: z.number(),
  sure: z.number(),
  nudged: z.number(),
});

/** Does what writes. @returns false while somebody else does */
function unlessBusy(write: () => unknown): boolean {
  try {
    write();
    return true;
  } catch (error) {
    if ((error as { code?: string }).code?.startsWith('SQLITE_BUSY')) return false;
    throw error;
  }
}

/** States of a job that is under way; whatever is found in one at the start was cut short. */
const UNDER_WAY = `('printing', 'pausing', 'paused', 'stopping', 'lost')`;

const Owing = z.object({
  machine: z.number(),
  name: z.string(),
  address: z.string(),
  tools: z.number(),
  why: z.string().nullable(),
  since: z.string(),
  state: z.enum(['unheard', 'told', 'stuck']),
});
export type Owing = z.infer<typeof Owing>;

/** How long it is waited before what could not be written is written again, ms. */
const AGAIN_MS = 200;

export function records(path: string) {
  const db = new Database(path);
  db.pragma(`busy_timeout = ${BUSY_MS}`);
  db.pragma('journal_mode = WAL');
  db.pragma('synchronous = FULL');
  db.pragma('foreign_keys = ON');
  const wires = db.prepare(
    `select machine_id as machine, address, wire.simulated as simulated, idle_min as idleMin,
       coalesce(json_extract(body, '$.extruder.tools'), 1) as tools
     from wire join machine on machine.id = machine_id where machine.deleted_at is null`,
  );
  const keepWire = db.prepare(
    `insert into wire (machine_id, address, simulated, at) values (?, ?, ?, ?)
     on conflict (machine_id) do update
       set address = excluded.address, simulated = excluded.simulated, at = excluded.at`,
  );
  const dropWire = db.prepare(`delete from wire where machine_id = ?`);
  const setIdle = db.prepare(`update wire set idle_min = ? where machine_id = ?`);
  const idleOf = db.prepare(`select idle_min as idleMin from wire where machine_id = ?`);
  const begin = db.prepare(
    `insert into job (machine_id, file_id, kept_id, name, state, lines, simulated, had, started_at)
     values (@machine, @file, @kept, @name, 'printing', @lines, @simulated, @had, @at)`,
  );
  const save = db.prepare(
    `update job set state = @state, line = @line, sure = @sure, why = @why, nudged = @nudged, ended_at = @endedAt where id = @id`,
  );
  const addHeat = db.prepare(`insert into heat (job_id, rows) values (?, ?)`);
  const dropHeat = db.prepare(`delete from heat where job_id = ?`);
  const nudge = db.prepare(
    `insert into nudge (job_id, line, mm, total, x, y, at)
     values (@job, @line, @mm, @total, @x, @y, @at)`,
  );
  const cutShort = db.prepare(
    `select id, machine_id as machine, sure,
       coalesce((select total from nudge where job_id = job.id order by id desc limit 1), 0) as nudged
       from job where state in ${UNDER_WAY}`,
  );
  const interrupt = db.prepare(
    `update job set state = 'interrupted', why = ?, ended_at = ? where id = ?`,
  );
  const ladderFile = db.prepare(`select gcode_sha from file where id = ?`);
  const keptFile = db.prepare(`select gcode_sha from kept where id = ?`);
  const owed = db.prepare(
    `select machine_id as machine, name, address, tools, why, since, state from owed order by since`,
  );
  const owe = db.prepare(
    `insert into owed (machine_id, name, address, tools, why, since, state)
     values (@machine, @name, @address, @tools, @why, @since, @state)
     on conflict (address) do update
       set machine_id = excluded.machine_id, name = excluded.name, tools = excluded.tools, why = excluded.why,
         since = excluded.since, state = excluded.state`,
  );
  const paid = db.prepare(`delete from owed where address = ?`);
  const name = db.prepare(`select body ->> '$.name' as name from machine where id = ?`);
  /** What is to be written in any case, in order, as soon as nobody else writes. */
  const pending: (() => unknown)[] = [];
  let waits: NodeJS.Timeout | null = null;
  const flush = (): void => {
    waits = null;
    while (pending.length > 0) {
      if (!unlessBusy(pending[0]!)) {
        waits = setTimeout(flush, AGAIN_MS);
        return;
      }
      pending.shift();
    }
  };
  const surely = (write: () => unknown): void => {
    pending.push(write);
    if (waits === null) flush();
  };
  const bytesOf = (row: unknown): Uint8Array | null => {
    const { gcode_sha: sha } = (row ?? {}) as { gcode_sha?: string };
    const packed = sha === undefined ? null : readBytes(folderOf(path), sha);
    return packed && inflateSync(packed);
  };
  return {
    wires: () => wires.all().map((row) => Wire.parse(row)),
    keepWire: (machine: number, address: string, simulated: string | null, at: string) =>
      void keepWire.run(machine, address, simulated, at),
    setIdle: (machine: number, minutes: number) => void setIdle.run(minutes, machine),
    /** Minutes that a machine may be hot and idle; null for one that was never linked. */
    idle: (machine: number): number | null =>
      (idleOf.get(machine) as { idleMin: number } | undefined)?.idleMin ?? null,
    dropWire: (machine: number) => void dropWire.run(machine),
    begin: (job: {
      machine: number;
      file: number | null;
      kept: number | null;
      name: string;
      lines: number;
      simulated: string | null;
      had: string | null;
      at: string;
    }): number => Number(begin.run(job).lastInsertRowid),
    /**
     * How far a job is, and what its heat was since the last time; at its end all of it, in the place of the pieces.
     * @returns false while somebody else writes: try again
     */
    save(
      id: number,
      { state, line, sure, why, nudged }: Progress,
      heat: readonly HeatRow[],
      endedAt: string | null,
    ): boolean {
      const write = db.transaction(() => {
        save.run({ id, state, line, sure, why, nudged, endedAt });
        if (endedAt !== null) dropHeat.run(id);
        if (heat.length > 0) addHeat.run(id, JSON.stringify(heat));
      });
      return unlessBusy(() => write.immediate());
    },
    /** @returns false while somebody else writes: try again */
    nudge: (job: number, made: Nudge): boolean => unlessBusy(() => nudge.run({ job, ...made })),
    /** Jobs that were under way when the last link ended: they stand as interrupted from now on. */
    interrupted(at: string): { machine: number }[] {
      const rows = z.array(CutShort).parse(cutShort.all());
      for (const { id, sure, nudged } of rows) {
        const why = `The link ended while it printed; line ${sure} is the last sure one.`;
        // Whether the machine has been off since is not known: nothing is taken back blindly.
        const height = ` Its nozzle may still be nudged by ${short(nudged)} mm: switch the machine off and on.`;
        interrupt.run(nudged === 0 ? why : why + height, at, id);
      }
      return rows;
    },
    /** The bytes of a file as they were kept. */
    bytes: (file: number | null, kept: number | null): Uint8Array | null =>
      bytesOf(
        file !== null ? ladderFile.get(file) : kept !== null ? keptFile.get(kept) : undefined,
      ),
    nameOf: (machine: number): string =>
      (name.get(machine) as { name: string | null } | undefined)?.name ?? 'A machine',
    owed: () => z.array(Owing).parse(owed.all()),
    owe: (row: Owing): void => surely(() => owe.run(row)),
    paid: (address: string): void => surely(() => paid.run(address)),
    close() {
      if (waits) clearTimeout(waits);
      flush();
      if (waits) clearTimeout(waits);
      db.close();
    },
  };
}
export type Records = ReturnType<typeof records>;
