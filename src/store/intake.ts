/** Takes an exported file line by line into a database of its own, and the bytes that it holds to where they are kept. */

import Database, { type Statement } from 'better-sqlite3';
import { createHash, type Hash } from 'node:crypto';
import {
  closeSync,
  createReadStream,
  existsSync,
  fsyncSync,
  openSync,
  rmSync,
  statSync,
  utimesSync,
  writeSync,
} from 'node:fs';
import { pipeline } from 'node:stream';
import { createGunzip } from 'node:zlib';
import { z } from 'zod';
import { beginPart, bytesPath, folderOf, keeperOf, settle } from './bytes';
import { FORMAT, PIECE } from './export';
import { linesIn } from './lines-in';
import type { Db, Migration } from './open';
import { columnsOf, TABLES, type Table } from './tables';

const Head = z.object({
  format: z.literal(FORMAT),
  // In the first, bytes stood in the rows themselves.
  version: z.union([z.literal(1), z.literal(2)]),
  // Before the first migration there was nothing that could be exported.
  schema: z.number().int().min(1),
});
const Begin = z.object({ table: z.enum(TABLES), columns: z.array(z.string()) });
const End = z.object({
  end: z.enum([...TABLES, 'everything']),
  rows: z.number(),
  sha256: z.string(),
});
const Sha = z.string().regex(/^[0-9a-f]{64}$/);
const BytesHead = z.object({
  bytes: Sha,
  size: z.number().int().min(0),
  missing: z.literal(true).optional(),
});
const Blob = z.object({ base64: z.string() });
const Cell = z.union([z.null(), z.number(), z.string(), Blob]);

/** Longest line, bytes: a row, or a piece of bytes as text; in the first version a whole file in a row. */
const LONGEST = 16 * PIECE;
const LONGEST_FIRST = 400 * PIECE;

/** Told how far it is, 0..1; a stop that comes ends it between two lines. */
export type Onward = { told?: (share: number) => void; stopped?: () => boolean };

/** Trouble with a file that is taken in. */
class Broken extends Error {}

type Piece = { sha: string; size: number; at: number; hash: Hash; part: string; file: number };

/** Every method throws Broken with the line. */
class Intake {
  private number = 0;
  private version: 1 | 2 = 2;
  private started = false;
  private done = false;
  private open: { table: Table; rows: number; hash: Hash; insert: Statement<unknown[]> } | null =
    null;
  private piece: Piece | null = null;
  private readonly seen: Table[] = [];
  private readonly total = createHash('sha256');
  private all = 0;
  private readonly came = new Set<string>();
  /** Bytes that the file itself says to be missing. */
  missing = 0;

  constructor(
    private readonly db: Db,
    private readonly migrations: readonly Migration[],
    private readonly folder: string,
  ) {}

  readonly longest = (): number => (this.version === 1 && this.started ? LONGEST_FIRST : LONGEST);

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
    if (this.piece && typeof data === 'string') return this.more(data);
    const begin = Begin.safeParse(data);
    if (!this.open && begin.success) return this.begin(begin.data);
    const bytes = BytesHead.safeParse(data);
    if (!this.open && bytes.success) return this.beginBytes(bytes.data);
    const end = End.safeParse(data);
    if (!end.success) throw this.broken('neither a row nor the end of a table');
    if (end.data.end === 'everything') this.finish(end.data);
    else this.end(end.data);
  }

  /** @throws Broken when the end has not come */
  close(): void {
    if (!this.done) throw this.broken('the end is missing');
  }

  /** What was begun and is not whole goes. */
  drop(): void {
    if (!this.piece) return;
    closeSync(this.piece.file);
    rmSync(this.piece.part, { force: true });
    this.piece = null;
  }

  private broken(what: string): Broken {
    return new Broken(`line ${this.number}: ${what}`);
  }

  /** Makes the tables as they were in the program that wrote the file. */
  private head(data: unknown): void {
    const head = Head.safeParse(data);
    if (!head.success) throw this.broken('it does not begin as an export of Ash Ladder');
    const { schema, version } = head.data;
    const known = Math.max(...this.migrations.map((one) => one.version));
    if (schema > known)
      throw this.broken(`it is of version ${schema}; this program knows up to ${known}`);
    for (const { version: to, sql } of this.migrations) {
      if (to > schema) continue;
      this.db.exec(sql);
      this.db.pragma(`user_version = ${to}`);
    }
    this.version = version;
    this.started = true;
  }

  private begin({ table, columns }: z.infer<typeof Begin>): void {
    const own = columnsOf(this.db, table);
    const fits = columns.length === own.length && columns.every((name) => own.includes(name));
    if (!fits || this.piece || this.came.size > 0 || this.seen.includes(table))
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

  private beginBytes({ bytes: sha, size, missing }: z.infer<typeof BytesHead>): void {
    if (this.piece || this.came.has(sha)) throw this.broken('bytes begin in the middle of others');
    this.came.add(sha);
    if (missing) {
      this.missing++;
      return;
    }
    const part = beginPart(this.folder);
    const file = openSync(part, 'w', 0o600);
    this.piece = { sha, size, at: 0, hash: createHash('sha256'), part, file };
    if (size === 0) this.endBytes();
  }

  private more(text: string): void {
    const piece = this.piece!;
    const data = Buffer.from(text, 'base64');
    if (data.length === 0 || piece.at + data.length > piece.size)
      throw this.broken('a piece of bytes is not as long as the file says');
    piece.hash.update(data);
    for (let at = 0; at < data.length;) at += writeSync(piece.file, data, at);
    piece.at += data.length;
    if (piece.at === piece.size) this.endBytes();
  }

  private endBytes(): void {
    const { sha, size, hash, part, file } = this.piece!;
    if (hash.digest('hex') !== sha) throw this.broken('bytes have another hash than the file says');
    const path = bytesPath(this.folder, sha);
    if (existsSync(path) && statSync(path).size === size) {
      // Young again, so that nothing sweeps them before rows name them.
      utimesSync(path, new Date(), new Date());
      this.drop();
      return;
    }
    fsyncSync(file);
    closeSync(file);
    this.piece = null;
    settle(part, this.folder, sha);
  }

  private finish({ rows, sha256 }: z.infer<typeof End>): void {
    // Programs of before had fewer tables.
    const wanted = TABLES.filter((table) => columnsOf(this.db, table).length > 0);
    if (this.open || this.piece || this.seen.length !== wanted.length)
      throw this.broken('a table is missing');
    if (rows !== this.all || this.total.digest('hex') !== sha256)
      throw this.broken('the sums do not fit');
    if (this.version === 2) {
      const named = this.db.prepare('select sha from bytes').pluck().all() as string[];
      const without = named.filter((sha) => !this.came.has(sha));
      if (without.length > 0) throw this.broken(`bytes of ${without.length} rows are missing`);
    }
    this.done = true;
  }
}

/** Somebody stopped it. */
export class Stopped extends Error {}

/**
 * @param path    of the exported file
 * @param scratch of a database beside the one that it may replace: bytes go where both keep theirs
 * @returns how many pictures and files are missing in it, as it says itself
 * @throws with the line where it is broken; Stopped
 */
export async function unpack(
  path: string,
  scratch: string,
  migrations: readonly Migration[],
  { told, stopped }: Onward = {},
): Promise<number> {
  const fresh = new Database(scratch);
  const intake = new Intake(fresh, migrations, folderOf(scratch));
  const source = createReadStream(path);
  try {
    fresh.pragma('journal_mode = OFF');
    fresh.pragma('foreign_keys = OFF');
    fresh.function('keep_bytes', keeperOf(fresh));
    fresh.exec('begin');
    const size = existsSync(path) ? statSync(path).size : 0;
    const stream = createGunzip();
    // A file that cannot be read ends the reading of its lines as well.
    pipeline(source, stream, () => undefined);
    let lines = 0;
    for await (const line of linesIn(stream, intake.longest)) {
      intake.take(line);
      if (++lines % 64 !== 0) continue;
      told?.(size > 0 ? Math.min(1, source.bytesRead / size) : 0);
      if (stopped?.()) throw new Stopped();
    }
    intake.close();
    fresh.exec('commit');
    return intake.missing;
  } finally {
    intake.drop();
    source.destroy();
    fresh.close();
  }
}
