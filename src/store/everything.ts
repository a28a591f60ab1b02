/** Taking in a file that holds everything, and putting what it holds in the place of what there is. */

import Database from 'better-sqlite3';
import { existsSync, rmSync } from 'node:fs';
import { fail, ok, problem, type Result } from '../core/result';
import { benches } from './benches';
import { anotherGeneration } from './identity';
import { Stopped, unpack, type Onward } from './intake';
import { grafts } from './grafts';
import { kept } from './kept';
import { files, ladders, prints } from './ladders';
import { ledger } from './ledger';
import { looks } from './looks';
import { openStore, type Db, type Migration } from './open';
import { photos } from './photos';
import { readings } from './readings';
import { shakes } from './shakes';
import { columnsOf, TABLES } from './tables';
import { filaments, machines } from './things';
import { wires } from './wires';

/** Every row as the program would read it, those in the archive too. @throws when one does not fit */
function readAll(db: Db, { told, stopped }: Onward): void {
  const [ladder, file, print, reading, look, run] = [
    ladders(db),
    files(db),
    prints(db),
    readings(db),
    looks(db),
    wires(db),
  ];
  const steps: [string, (id: number) => unknown][] = [
    ['select id from machine', machines(db).get],
    ['select id from filament', filaments(db).get],
    ['select id from bench', benches(db).get],
    ['select id from bench', ledger(db).all],
    ['select id from ladder', ladder.get],
    ['select id from file', (id) => [file.get(id), file.checked(id)]],
    ['select id from print', (id) => [print.get(id), photos(db).ofPrint(id)]],
    ['select id from print', run.runOf],
    [
      'select id from reading',
      (id) => [reading.get(id), reading.answered(id), reading.measured(id)],
    ],
    ['select distinct print_id from look', look.ofPrint],
    ['select id from shake', shakes(db).get],
    ['select id from kept', kept(db).get],
    ['select ladder_id from graft', grafts(db).of],
    ['select id from job', run.nudges],
  ];
  steps.forEach(([ids, read], step) => {
    const all = db.prepare(ids).pluck().all() as number[];
    all.forEach((id, i) => {
      read(id);
      if (i % 256 !== 0) return;
      told?.((step + i / all.length) / steps.length);
      if (stopped?.()) throw new Stopped();
    });
  });
}

/** Where an exported file without a single bench is refused: nothing of what is here would be left. */
export const HOLDS_NO_BENCH = 'empty';

/** What taking a file in would do. */
export type Told = {
  benches: number;
  prints: number;
  pictures: number;
  /** When the newest print of it was printed; null without one. */
  newest: string | null;
  /** Pictures and files that the file says to be missing in it. */
  missing: number;
};

export type Phase = 'unpacking' | 'reading';
type Watch = { told?: (phase: Phase, share: number) => void; stopped?: () => boolean };

const ENDS = ['', '-wal', '-shm', '-journal'];
export const removeScratch = (scratch: string): void =>
  ENDS.forEach((end) => rmSync(scratch + end, { force: true }));

/**
 * Proves a file whole, into a database of its own that stays where it is good: nothing of what stands is touched.
 *
 * @param path    of the exported file
 * @param scratch path for that database, beside the one that it may replace
 */
export async function prove(
  path: string,
  scratch: string,
  migrations: readonly Migration[],
  { told, stopped }: Watch = {},
): Promise<Result<Told>> {
  removeScratch(scratch);
  const onward = (phase: Phase): Onward => ({
    told: (share) => told?.(phase, share),
    ...(stopped ? { stopped } : {}),
  });
  let done = false;
  try {
    const missing = await unpack(path, scratch, migrations, onward('unpacking'));
    const whole = checked(scratch, migrations, onward('reading'));
    if (!whole.ok) return whole;
    done = true;
    return ok({ ...toldOf(scratch), missing });
  } catch (error) {
    if (error instanceof Stopped)
      return fail(problem('file', 'It was stopped.', 'Nothing was changed.'));
    return refused(path, (error as Error).message);
  } finally {
    if (!done) removeScratch(scratch);
  }
}

/**
 * Takes an exported file in: everything that is there now is replaced by it, in one transaction, or nothing is. It is
 * proved whole before anything else is done.
 *
 * @param before is done once the file is known to be good: a copy of what stands
 * @param mayBeEmpty whether a file without a bench is meant
 */
export async function importAll(
  db: Db,
  path: string,
  scratch: string,
  migrations: readonly Migration[],
  before: () => Promise<void> = () => Promise.resolve(),
  mayBeEmpty = false,
): Promise<Result<null>> {
  const told = await prove(path, scratch, migrations);
  if (!told.ok) return told;
  try {
    if (!mayBeEmpty && told.value.benches === 0) return fail(noBench);
    await before();
    replaceAll(db, scratch);
    return ok(null);
  } catch (error) {
    return refused(path, (error as Error).message);
  } finally {
    removeScratch(scratch);
  }
}

export const noBench = problem(
  HOLDS_NO_BENCH,
  'This file holds no bench: nothing of what is here would be left.',
  'Choose another file; or replace everything with nothing, if that is what you want.',
);

function toldOf(path: string): Omit<Told, 'missing'> {
  const db = new Database(path, { readonly: true });
  try {
    return db
      .prepare(
        `select (select count(*) from bench) as benches, (select count(*) from print) as prints,
          (select count(*) from photo) as pictures, (select max(printed_at) from print) as newest`,
      )
      .get() as Omit<Told, 'missing'>;
  } finally {
    db.close();
  }
}

const refused = (path: string, why: string): Result<never> =>
  fail(
    problem(
      path,
      `This file cannot be taken in: ${why}.`,
      'Nothing was changed. Get the file again from where it came.',
    ),
  );

/** A database that is sound, up to date, and readable row by row. */
export function checked(
  path: string,
  migrations: readonly Migration[],
  onward: Onward = {},
): Result<null> {
  if (!existsSync(path)) return refused(path, 'it is not there');
  // It is a copy itself: none is made of it.
  const opened = openStore(path, migrations, { copies: false });
  if (!opened.ok) return opened;
  const db = opened.value;
  try {
    if (db.pragma('integrity_check', { simple: true }) !== 'ok')
      return refused(path, 'it is damaged');
    const loose = db.pragma('foreign_key_check') as unknown[];
    if (loose.length > 0) return refused(path, `${loose.length} rows point to nothing`);
    readAll(db, onward);
    db.pragma('wal_checkpoint(TRUNCATE)');
    return ok(null);
  } catch (error) {
    if (error instanceof Stopped) throw error;
    return refused(path, (error as Error).message.slice(0, 300));
  } finally {
    db.close();
  }
}

/** Names of the machines that have an address. */
const namesOf = (db: Db): Map<number, string> =>
  new Map(
    (
      db
        .prepare(
          `select machine_id, body ->> '$.name' from main.wire join main.machine on id = machine_id`,
        )
        .raw()
        .all() as [number, string][]
    ).map(([id, name]) => [id, name]),
  );

/** Puts the rows of another database, of the same version, in the place of all rows: one transaction. */
export function replaceAll(db: Db, path: string): void {
  db.prepare('attach ? as other').run(path);
  try {
    db.transaction(() => {
      db.pragma('defer_foreign_keys = ON');
      const linked = namesOf(db);
      for (const table of [...TABLES].reverse()) db.exec(`delete from main.${table}`);
      for (const table of TABLES) {
        const columns = columnsOf(db, table).join(', ');
        db.exec(`insert into main.${table} (${columns}) select ${columns} from other.${table}`);
      }
      // Where machines are reached belongs to this computer; a machine of the same id may be another one now.
      const stands = namesOf(db);
      for (const [id, name] of linked)
        if (stands.get(id) !== name) db.prepare(`delete from wire where machine_id = ?`).run(id);
      anotherGeneration(db);
    }).immediate();
  } finally {
    db.exec('detach other');
  }
}
