/**
 * Everything as one file: lines of JSON, compressed, with the version of the schema, the number of rows of each table
 * and a hash over them. Taken in whole or not at all.
 */

import { createHash, type Hash } from 'node:crypto';
import { createReadStream, existsSync, rmSync } from 'node:fs';
import { createInterface } from 'node:readline';
import { pipeline, Readable } from 'node:stream';
import { createGunzip, createGzip } from 'node:zlib';
import Database, { type Statement } from 'better-sqlite3';
import { z } from 'zod';
import { VERSION } from '../core/version';
import { fail, ok, problem, type Result } from '../core/result';
import { benches } from './benches';
import { anotherGeneration } from './identity';
import { files, ladders, prints } from './ladders';
import { ledger } from './ledger';
import { openStore, type Db, type Migration } from './open';
import { photos } from './photos';
import { filaments, machines } from './things';

/** All tables, those that others point to first; photos before prints, whose count of changes is not to run on. */
export const TABLES = [
  'machine',
  'filament',
  'bench',
  'ladder',
  'file',
  'photo',
  'print',
  'print_picture',
  'look',
  'reading',
  'score_act',
  'measured',
  'ledger',
  'kept',
  'graft',
  'job',
  'shake_file',
  'shake',
  'nudge',
  'put',
  'place',
] as const;
type Table = (typeof TABLES)[number];

const FORMAT = 'ash-ladder/everything';
const Head = z.object({
  format: z.literal(FORMAT),
  version: z.literal(1),
  // Before the first migration there was nothing that could be exported.
  schema: z.number().int().min(1),
});
const Begin = z.object({ table: z.enum(TABLES), columns: z.array(z.string()) });
const End = z.object({
  end: z.enum([...TABLES, 'everything']),
  rows: z.number(),
  sha256: z.string(),
});
const Blob = z.object({ base64: z.string() });
const Cell = z.union([z.null(), z.number(), z.string(), Blob]);

const columnsOf = (db: Db, table: Table): string[] =>
  (db.pragma(`table_info(${table})`) as { name: string }[]).map(({ name }) => name);

function* linesOf(path: string): Generator<string> {
  // A connection of its own reads one moment, however long the reader of the file takes.
  const db = new Database(path, { readonly: true });
  try {
    db.exec('begin');
    const schema = db.pragma('user_version', { simple: true });
    yield `${JSON.stringify({ format: FORMAT, version: 1, schema, program: VERSION })}\n`;
    let all = 0;
    const total = createHash('sha256');
    for (const table of TABLES) {
      const columns = columnsOf(db, table);
      // A store of before has fewer tables.
      if (columns.length === 0) continue;
      yield `${JSON.stringify({ table, columns })}\n`;
      const hash = createHash('sha256');
      let rows = 0;
      for (const row of db
        .prepare(`select ${columns.join(', ')} from ${table}`)
        .raw()
        .iterate()) {
        const line = `${JSON.stringify((row as unknown[]).map(packed))}\n`;
        hash.update(line);
        rows++;
        yield line;
      }
      const sha256 = hash.digest('hex');
      total.update(sha256);
      all += rows;
      yield `${JSON.stringify({ end: table, rows, sha256 })}\n`;
    }
    yield `${JSON.stringify({ end: 'everything', rows: all, sha256: total.digest('hex') })}\n`;
  } finally {
    db.close();
  }
}

const packed = (cell: unknown): unknown =>
  cell instanceof Uint8Array ? { base64: Buffer.from(cell).toString('base64') } : cell;

/** @param path of the database @returns the bytes of the file, piece by piece; it fails where reading fails */
export function exportAll(path: string): Readable {
  const packer = createGzip();
  // What goes wrong in reading ends the packed stream as well: whoever takes it is not left waiting.
  pipeline(Readable.from(linesOf(path), { objectMode: false }), packer, () => undefined);
  return packer;
}

/** Trouble with a file that is taken in. */
class Broken extends Error {}

/** Takes an exported file line by line into a database of its own. Every method throws Broken with the line. */
class Intake {
  private number = 0;
  private started = false;
  private done = false;
  private open: { table: Table; rows: number; hash: Hash; insert: Statement<unknown[]> } | null =
    null;
  private readonly seen: Table[] = [];
  private readonly total = createHash('sha256');
  private all = 0;

  constructor(
    private readonly db: Db,
    private readonly migrations: readonly Migration[],
  ) {}

  take(line: string): void {
    this.number++;
    if (this.done) throw this.broken('something follows the end');
    let data: unknown;
    try {
      data = JSON.parse(line);
    } catch {
      throw this.broken('it is not complete JSON');
    }
    if (!this.started) return this.head(data);
    if (this.open && Array.isArray(data)) return this.row(data, line);
    const begin = Begin.safeParse(data);
    if (!this.open && begin.success) return this.begin(begin.data);
    const end = End.safeParse(data);
    if (!end.success) throw this.broken('neither a row nor the end of a table');
    if (end.data.end === 'everything') this.finish(end.data);
    else this.end(end.data);
  }

  /** @throws Broken when the end has not come */
  close(): void {
    if (!this.done) throw this.broken('the end is missing');
  }

  private broken(what: string): Broken {
    return new Broken(`line ${this.number}: ${what}`);
  }

  /** Makes the tables as they were in the program that wrote the file. */
  private head(data: unknown): void {
    const head = Head.safeParse(data);
    if (!head.success) throw this.broken('it does not begin as an export of Ash Ladder');
    const { schema } = head.data;
    const known = Math.max(...this.migrations.map(({ version }) => version));
    if (schema > known)
      throw this.broken(`it is of version ${schema}; this program knows up to ${known}`);
    for (const { version, sql } of this.migrations) {
      if (version > schema) continue;
      this.db.exec(sql);
      this.db.pragma(`user_version = ${version}`);
    }
    this.started = true;
  }

  private begin({ table, columns }: z.infer<typeof Begin>): void {
    const own = columnsOf(this.db, table);
    const fits = columns.length === own.length && columns.every((name) => own.includes(name));
    if (!fits || this.seen.includes(table))
      throw this.broken(`the columns of ${table} are not those of its version`);
    this.seen.push(table);
    const insert = this.db.prepare<unknown[]>(
      `insert into ${table} (${columns.join(', ')}) values (${columns.map(() => '?').join(', ')})`,
    );
    this.open = { table, rows: 0, hash: createHash('sha256'), insert };
  }

  private row(data: unknown[], line: string): void {
    const cells = z.array(Cell).safeParse(data);
    if (!cells.success) throw this.broken('a row holds what no column can');
    const { hash, insert } = this.open!;
    hash.update(`${line}\n`);
    this.open!.rows++;
    try {
      insert.run(
        ...cells.data.map((cell) =>
          typeof cell === 'object' && cell !== null ? Buffer.from(cell.base64, 'base64') : cell,
        ),
      );
    } catch (error) {
      throw this.broken(`a row does not fit its table (${(error as Error).message})`);
    }
  }

  private end({ end, rows, sha256 }: z.infer<typeof End>): void {
    if (!this.open || end !== this.open.table) throw this.broken('the end of another table');
    const { table, rows: counted, hash } = this.open;
    if (rows !== counted || sha256 !== hash.digest('hex'))
      throw this.broken(`${table} has ${counted} rows and another hash than the file says`);
    this.total.update(sha256);
    this.all += rows;
    this.open = null;
  }

  private finish({ rows, sha256 }: z.infer<typeof End>): void {
    // Programs of before had fewer tables.
    const wanted = TABLES.filter((table) => columnsOf(this.db, table).length > 0);
    if (this.open || this.seen.length !== wanted.length) throw this.broken('a table is missing');
    if (rows !== this.all || this.total.digest('hex') !== sha256)
      throw this.broken('the sums do not fit');
    this.done = true;
  }
}

/** Every row as the program would read it. @throws when one does not fit */
function readAll(db: Db): void {
  machines(db).all();
  filaments(db).all();
  for (const { id } of benches(db).all()) {
    ledger(db).all(id);
    for (const ladder of ladders(db).ofBench(id)) {
      files(db).currentOf(ladder.id);
      for (const { id: print } of prints(db).ofLadder(ladder.id)) photos(db).ofPrint(print);
    }
  }
}

/** Where an exported file without a single bench is refused: nothing of what is here would be left. */
export const HOLDS_NO_BENCH = 'empty';

/**
 * Takes an exported file in: everything that is there now is replaced by it, in one transaction, or nothing is. It is
 * proved whole before anything else is done.
 *
 * @param path of the exported file
 * @param scratch path for a database that is gone afterwards
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
  const remove = () => {
    for (const end of ['', '-wal', '-shm', '-journal']) rmSync(scratch + end, { force: true });
  };
  remove();
  try {
    await unpack(path, scratch, migrations);
    const whole = checked(scratch, migrations);
    if (!whole.ok) return whole;
    if (!mayBeEmpty && countBenches(scratch) === 0)
      return fail(
        problem(
          HOLDS_NO_BENCH,
          'This file holds no bench: nothing of what is here would be left.',
          'Choose another file; or replace everything with nothing, if that is what you want.',
        ),
      );
    await before();
    replaceAll(db, scratch);
    return ok(null);
  } catch (error) {
    return refused(path, (error as Error).message);
  } finally {
    remove();
  }
}

/** @throws with the line where it is broken */
async function unpack(
  path: string,
  scratch: string,
  migrations: readonly Migration[],
): Promise<void> {
  const fresh = new Database(scratch);
  try {
    fresh.pragma('journal_mode = OFF');
    fresh.pragma('foreign_keys = OFF');
    fresh.exec('begin');
    const stream = createGunzip();
    // A file that cannot be read ends the reading of its lines as well.
    pipeline(createReadStream(path), stream, () => undefined);
    const intake = new Intake(fresh, migrations);
    for await (const line of createInterface({ input: stream, crlfDelay: Infinity }))
      intake.take(line);
    intake.close();
    fresh.exec('commit');
  } finally {
    fresh.close();
  }
}

function countBenches(path: string): number {
  const db = new Database(path, { readonly: true });
  try {
    return db.prepare('select count(*) from bench').pluck().get() as number;
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
export function checked(path: string, migrations: readonly Migration[]): Result<null> {
  if (!existsSync(path)) return refused(path, 'it is not there');
  const opened = openStore(path, migrations);
  if (!opened.ok) return opened;
  const db = opened.value;
  try {
    if (db.pragma('integrity_check', { simple: true }) !== 'ok')
      return refused(path, 'it is damaged');
    const loose = db.pragma('foreign_key_check') as unknown[];
    if (loose.length > 0) return refused(path, `${loose.length} rows point to nothing`);
    readAll(db);
    db.pragma('wal_checkpoint(TRUNCATE)');
    return ok(null);
  } catch (error) {
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
