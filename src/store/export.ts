/**
 * Everything as one file: lines of JSON, compressed. First the rows, table by table with their number and a hash; then
 * the bytes that they name, in pieces, so that neither side ever holds more than a piece.
 */

import Database from 'better-sqlite3';
import { createHash } from 'node:crypto';
import { closeSync, openSync, readSync } from 'node:fs';
import { pipeline, Readable } from 'node:stream';
import { constants, createGzip } from 'node:zlib';
import { VERSION } from '../core/version';
import { bytesPath, folderOf } from './bytes';
import { columnsOf, TABLES } from './tables';

export const FORMAT = 'ash-ladder/everything';
/** Bytes of one piece, before they are text. */
export const PIECE = 1 << 20;

/** Bytes that leave the packer at once. */
const PACKED_PIECE = 256 * 1024;

/** How far an export is: bytes of pictures and files, and rows, of all that there are. */
export type Out = { bytes: number; ofBytes: number; rows: number; ofRows: number };

function* linesOf(path: string, told: (out: Out) => void): Generator<string> {
  // A connection of its own reads one moment, however long the reader of the file takes.
  const db = new Database(path, { readonly: true });
  try {
    db.exec('begin');
    const schema = db.pragma('user_version', { simple: true });
    const tables = TABLES.filter((table) => columnsOf(db, table).length > 0);
    // A store of before has its bytes in its rows.
    const apart = tables.includes('bytes');
    const version = apart ? 2 : 1;
    yield `${JSON.stringify({ format: FORMAT, version, schema, program: VERSION })}\n`;
    const out: Out = {
      bytes: 0,
      ofBytes: apart
        ? (db.prepare('select coalesce(sum(size), 0) from bytes').pluck().get() as number)
        : 0,
      rows: 0,
      ofRows: tables.reduce(
        (sum, table) => sum + (db.prepare(`select count(*) from ${table}`).pluck().get() as number),
        0,
      ),
    };
    const total = createHash('sha256');
    for (const table of tables) {
      const columns = columnsOf(db, table);
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
      out.rows += rows;
      told(out);
      yield `${JSON.stringify({ end: table, rows, sha256 })}\n`;
    }
    const folder = folderOf(path);
    const bytes = apart ? db.prepare('select sha, size from bytes order by sha').iterate() : [];
    for (const row of bytes) {
      const { sha, size } = row as { sha: string; size: number };
      yield* piecesOf(bytesPath(folder, sha), sha, size);
      out.bytes += size;
      told(out);
    }
    yield `${JSON.stringify({ end: 'everything', rows: out.rows, sha256: total.digest('hex') })}\n`;
  } finally {
    db.close();
  }
}

const packed = (cell: unknown): unknown =>
  cell instanceof Uint8Array ? { base64: Buffer.from(cell).toString('base64') } : cell;

/** Bytes that are not there any more are said to be missing: everything else is worth having. */
function* piecesOf(path: string, sha: string, size: number): Generator<string> {
  let file: number;
  try {
    file = openSync(path, 'r');
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
    yield `${JSON.stringify({ bytes: sha, size, missing: true })}\n`;
    return;
  }
  try {
    yield `${JSON.stringify({ bytes: sha, size })}\n`;
    const piece = Buffer.alloc(Math.min(PIECE, Math.max(1, size)));
    for (let at = 0; at < size;) {
      const read = readSync(file, piece, 0, piece.length, at);
      if (read === 0) throw new Error(`${path} has ${at} bytes instead of ${size}`);
      at += read;
      yield `"${piece.toString('base64', 0, read)}"\n`;
    }
  } finally {
    closeSync(file);
  }
}

/**
 * @param path of the database
 * @returns the bytes of the file, piece by piece; it fails where reading fails
 */
export function exportAll(path: string, told: (out: Out) => void = () => undefined): Readable {
  // Pictures and files are packed already: only what base64 adds is taken out again, which is fast.
  const packer = createGzip({
    level: 1,
    strategy: constants.Z_HUFFMAN_ONLY,
    chunkSize: PACKED_PIECE,
  });
  // What goes wrong in reading ends the packed stream as well: whoever takes it is not left waiting.
  pipeline(Readable.from(linesOf(path, told), { objectMode: false }), packer, () => undefined);
  return packer;
}
