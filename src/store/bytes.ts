/**
 * Bytes that rows name by their hash: pictures and files, beside the database in `bytes/`, each once. Written and synced
 * before the row that names them; what no row names is swept. So lists never walk over them, and a copy of the database
 * is small.
 */

import { createHash } from 'node:crypto';
import {
  closeSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readFileSync,
  readdirSync,
  renameSync,
  statSync,
  unlinkSync,
  utimesSync,
  writeSync,
} from 'node:fs';
import { open } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { Db } from './open';

/** Every column that names bytes. */
export const NAMES_BYTES = [
  ['photo', 'jpeg_sha'],
  ['photo', 'preview_sha'],
  ['print_picture', 'png_sha'],
  ['look', 'strip_sha'],
  ['file', 'gcode_sha'],
  ['kept', 'gcode_sha'],
] as const;

/** Something that was written lately may be about to be named, ms. */
const YOUNG_MS = 24 * 3_600_000;

export const hashOf = (data: Uint8Array): string => createHash('sha256').update(data).digest('hex');

/** Folder of the bytes of a database. */
export const folderOf = (databasePath: string): string => join(dirname(databasePath), 'bytes');

const within = (folder: string, sha: string): string => join(folder, sha.slice(0, 2), sha.slice(2));

/** A folder as it stands is on the disk, too. */
function syncFolder(path: string): void {
  const folder = openSync(path, 'r');
  try {
    fsyncSync(folder);
  } finally {
    closeSync(folder);
  }
}

let count = 0;
/** A name beside the final one, of this process and thread alone. */
const partOf = (path: string): string =>
  `${path}.${process.pid}.${Date.now().toString(36)}${count++}.part`;

/** Whether the bytes are there; they are young again, so that nothing sweeps them before they are named. */
function renewed(path: string, size: number): boolean {
  if (!existsSync(path) || statSync(path).size !== size) return false;
  const now = new Date();
  utimesSync(path, now, now);
  return true;
}

/** Puts what was written in its place for good. */
export function settle(part: string, folder: string, sha: string): void {
  const path = within(folder, sha);
  const isNew = !existsSync(dirname(path));
  mkdirSync(dirname(path), { recursive: true, mode: 0o700 });
  renameSync(part, path);
  syncFolder(dirname(path));
  if (isNew) syncFolder(folder);
}

/** Path for something that is being written, in the folder where it will stand. */
export function beginPart(folder: string): string {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  return partOf(join(folder, 'new'));
}

/** Writes and syncs bytes. @returns their hash */
export function writeBytes(folder: string, data: Uint8Array): string {
  const sha = hashOf(data);
  if (renewed(within(folder, sha), data.length)) return sha;
  const part = beginPart(folder);
  const file = openSync(part, 'w', 0o600);
  try {
    for (let at = 0; at < data.length;) at += writeSync(file, data, at);
    fsyncSync(file);
  } finally {
    closeSync(file);
  }
  settle(part, folder, sha);
  return sha;
}

/** What a store keeps in memory alone, for a database that is in memory. */
const inMemory = new WeakMap<Db, Map<string, Uint8Array>>();
const memoryOf = (db: Db): Map<string, Uint8Array> => {
  const known = inMemory.get(db) ?? new Map<string, Uint8Array>();
  inMemory.set(db, known);
  return known;
};

/** Bytes of a database whose tables may not be there yet: migrations move them with this. */
export const keeperOf = (db: Db): ((data: Uint8Array) => string) =>
  db.memory
    ? (data) => {
        memoryOf(db).set(hashOf(data), Buffer.from(data));
        return hashOf(data);
      }
    : (data) => writeBytes(folderOf(db.name), data);

export function bytes(db: Db) {
  const folder = folderOf(db.name);
  const note = db.prepare(
    `insert into bytes (sha, size) values (?, ?) on conflict (sha) do nothing`,
  );
  const keep = keeperOf(db);
  const noted = (sha: string, size: number): string => {
    note.run(sha, size);
    return sha;
  };
  return {
    /** Keeps bytes: synced before this returns. @returns their hash, to be named by a row of the same transaction */
    keep: (data: Uint8Array): string => noted(keep(data), data.length),
    /** The same for what may be large: nothing waits meanwhile. */
    async keepLarge(data: Uint8Array): Promise<string> {
      const sha = hashOf(data);
      if (db.memory || renewed(within(folder, sha), data.length))
        return noted(keep(data), data.length);
      const part = beginPart(folder);
      const file = await open(part, 'w', 0o600);
      try {
        await file.writeFile(data);
        await file.sync();
      } finally {
        await file.close();
      }
      settle(part, folder, sha);
      return noted(sha, data.length);
    },
    /** Null for what is not there: swept by hand, or lost with the disk. */
    get: (sha: string): Uint8Array | null =>
      db.memory ? (memoryOf(db).get(sha) ?? null) : readBytes(folder, sha),
  };
}

export function readBytes(folder: string, sha: string): Uint8Array | null {
  try {
    return readFileSync(within(folder, sha));
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return null;
    throw error;
  }
}

export const bytesPath = within;

/** Hashes that a database names. */
export function* namedIn(db: Db): Generator<string> {
  for (const [table, column] of NAMES_BYTES)
    for (const sha of db
      .prepare(`select ${column} from ${table} where ${column} is not null`)
      .pluck()
      .iterate())
      yield sha as string;
}

/**
 * Takes away what none of these databases names, and what was never finished. @returns how many files, and their bytes
 *
 * @param now ms
 */
export function sweep(
  folder: string,
  named: ReadonlySet<string>,
  now: number,
): { files: number; size: number } {
  const swept = { files: 0, size: 0 };
  if (!existsSync(folder)) return swept;
  const take = (path: string) => {
    // Looked at right before: it may have been named again in between.
    const { size, mtimeMs } = statSync(path);
    if (now - mtimeMs < YOUNG_MS) return;
    unlinkSync(path);
    swept.files++;
    swept.size += size;
  };
  for (const name of readdirSync(folder)) {
    const path = join(folder, name);
    if (name.endsWith('.part')) take(path);
    else if (/^[0-9a-f]{2}$/.test(name))
      for (const rest of readdirSync(path)) if (!named.has(name + rest)) take(join(path, rest));
  }
  return swept;
}
