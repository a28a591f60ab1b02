/** Benches: which machine, nozzle and filament belong together. */

import { z } from 'zod';
import { joinBench, titleOf, type Bench } from '../core/bench/bench';
import { SETTING_NAMES } from '../core/bench/settings';
import type { Db } from './open';
import { filaments, machines } from './things';

const Row = z.object({
  id: z.number(),
  machineId: z.number(),
  bore: z.number(),
  filamentId: z.number(),
  createdAt: z.string(),
});
type Row = z.infer<typeof Row>;
const Title = z.object({
  id: z.number(),
  machine: z.string(),
  bore: z.number(),
  filament: z.string(),
  tuned: z.number(),
});
const Tuning = z.object({ machine: z.string(), bore: z.number(), tuned: z.number() });
const Tuned = z.partialRecord(z.enum(SETTING_NAMES), z.number());
const Carried = z.array(z.enum(SETTING_NAMES));

export type StoredBench = Row & { bench: Bench };

const COLUMNS = `id, machine_id as machineId, bore, filament_id as filamentId, created_at as createdAt`;

export function benches(db: Db) {
  const insert = db.prepare(
    `insert into bench (machine_id, bore, filament_id, created_at) values (?, ?, ?, ?)
     on conflict (machine_id, bore, filament_id) do update set deleted_at = null
     returning id`,
  );
  const one = db.prepare(`select ${COLUMNS} from bench where id = ?`);
  const all = db.prepare(`select ${COLUMNS} from bench where deleted_at is null order by id`);
  const titles = db.prepare(
    `select bench.id, machine.body ->> '$.name' as machine, bore, filament.body ->> '$.name' as filament,
        (select count(distinct setting) from ledger
          where bench_id = bench.id and replaced_at is null and simulated = 0) as tuned
       from bench join machine on machine.id = machine_id join filament on filament.id = filament_id
      where bench.deleted_at is null and (@like = '' or
        instr(lower(machine.body ->> '$.name' || ' ' || bore || ' ' || (filament.body ->> '$.name')), lower(@like)) > 0)
      order by bench.id desc limit @most`,
  );
  const tunedOf = db.prepare(
    `select machine.body ->> '$.name' as machine, bore, (
        select count(distinct setting) from ledger
         where bench_id = bench.id and replaced_at is null and simulated = 0) as tuned
       from bench join machine on machine.id = machine_id
      where filament_id = ? and bench.deleted_at is null and tuned > 0 order by bench.id desc`,
  );
  const first = db.prepare(`select id from bench where deleted_at is null order by id limit 1`);
  const exists = db.prepare(`select 1 from bench where id = ? and deleted_at is null`);
  const count = db.prepare(`select count(*) as count from bench where deleted_at is null`);
  // What was found on a simulated machine must not reach a file for a real one.
  const values = db.prepare(
    `select setting, value, carried_at from ledger where bench_id = ? and replaced_at is null
        and simulated = 0 order by setting`,
  );
  const [ofMachine, ofFilament] = [machines(db), filaments(db)];

  const join = (raw: unknown): StoredBench => {
    const row = Row.parse(raw);
    const machine = ofMachine.get(row.machineId);
    const filament = ofFilament.get(row.filamentId);
    if (!machine || !filament) throw new Error(`bench ${row.id} has lost its machine or filament`);
    const bench = joinBench(machine.body, { diameter: row.bore }, filament.body);
    const found = values.raw().all(row.id) as [string, number, string | null][];
    if (found.length === 0) return { ...row, bench };
    const tuned = Tuned.parse(Object.fromEntries(found.map(([name, value]) => [name, value])));
    const carried = Carried.parse(found.flatMap(([name, , at]) => (at === null ? [] : [name])));
    return { ...row, bench: { ...bench, tuned, ...(carried.length > 0 ? { carried } : {}) } };
  };

  return {
    /** Joins the three; the same three are the same bench. @returns its id */
    join: (machineId: number, bore: number, filamentId: number, at: string): number =>
      z.object({ id: z.number() }).parse(insert.get(machineId, bore, filamentId, at)).id,
    get(id: number): StoredBench | null {
      const row = one.get(id);
      return row === undefined ? null : join(row);
    },
    all: (): StoredBench[] => all.all().map(join),
    /** Titles of the newest, of those that hold `like`, without reading what they are made of. */
    /** `tuned`: how many values of the real machine stand. */
    titles: (most: number, like = ''): { id: number; title: string; tuned: number }[] =>
      titles.all({ like, most }).map((row) => {
        const { id, machine, bore, filament, tuned } = Title.parse(row);
        return { id, title: titleOf(machine, bore, filament), tuned };
      }),
    /** Benches on which something of a filament is tuned, as many values as stand; the newest bench first. */
    tunedOf: (filamentId: number): { machine: string; bore: number; tuned: number }[] =>
      tunedOf.all(filamentId).map((row) => Tuning.parse(row)),
    first: (): number | null => (first.get() as { id: number } | undefined)?.id ?? null,
    has: (id: number): boolean => exists.get(id) !== undefined,
    count: (): number => (count.get() as { count: number }).count,
  };
}
