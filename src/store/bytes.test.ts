import {
  existsSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { good } from '../core/testing';
import { backUp, sweepBytes } from './backups';
import { bytes, bytesPath, folderOf, hashOf } from './bytes';
import { kept } from './kept';
import { files, prints } from './ladders';
import { looks } from './looks';
import { migrationsIn, openStore, type Db } from './open';
import { photos } from './photos';
import { forget, roomOf, tidy } from './room';
import { readings } from './readings';
import { furnish, PHOTO } from './testing/furnish';

const MIGRATIONS = migrationsIn('src/store/migrations');
const AT = '2026-11-02T08:00:00.000Z';
const DAY_MS = 24 * 3_600_000;
let folder: string;
let db: Db;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'ash-bytes-'));
  db = good(openStore(join(folder, 'ash.sqlite'), MIGRATIONS));
});
afterEach(() => {
  db.close();
  rmSync(folder, { recursive: true, force: true });
});

const shelf = () => folderOf(join(folder, 'ash.sqlite'));
const all = () =>
  existsSync(shelf())
    ? readdirSync(shelf(), { recursive: true, withFileTypes: true }).filter((one) => one.isFile())
    : [];
/** As if everything had been written long ago. */
const age = () => {
  for (const one of all()) utimesSync(join(one.parentPath, one.name), 1, 1);
};

test('bytes are kept once by their hash, whoever names them, and are gone for nobody that still does', async () => {
  const { keep, keepLarge, get } = bytes(db);
  const data = Buffer.from('a picture');
  const sha = db.transaction(() => keep(data))();
  expect(sha).toBe(hashOf(data));
  expect(keep(data)).toBe(sha);
  expect(await keepLarge(data)).toBe(sha);
  expect(all()).toHaveLength(1);
  expect(Buffer.from(get(sha)!).toString()).toBe('a picture');
  expect(get('0'.repeat(64))).toBeNull();
});

test('plans of many files are all there, however many are kept ready', () => {
  const { ladder, file, made } = furnish(db, AT);
  const store = files(db);
  // As many as there are places, each with bytes of its own.
  const ids = Array.from({ length: 230 }, (_, i) =>
    store.keep(ladder, `${made.text}; ${i}\n`, made.plan, AT),
  );
  // The first is known, and is the first to be let go while the others are read.
  store.get(file);
  expect(store.many([...ids, file]).get(file)!.plan.file).toBe(made.plan.file);
  expect(store.many(ids).size).toBe(230);
});

test('what no row and no copy names is swept once it is old; a copy keeps what it names', () => {
  const { print } = furnish(db, AT);
  photos(db).add(print, { ...PHOTO, uid: 'one' });
  bytes(db).keep(Buffer.from('named by nobody'));
  writeFileSync(join(shelf(), 'new.1.part'), 'cut off');
  const before = all().length;
  expect(sweepBytes(db, folder, Date.now()).files).toBe(0);
  age();
  expect(sweepBytes(db, folder, Date.now()).files).toBe(2);
  expect(all()).toHaveLength(before - 2);
  backUp(db, folder, '2026-11-02');
  db.prepare('delete from photo').run();
  age();
  expect(sweepBytes(db, folder, Date.now()).files).toBe(0);
  // Moved to where a copy of before a newer program stands, it counts as well.
  renameSync(
    join(folder, 'backups', 'ash-2026-11-02.sqlite'),
    join(folder, 'ash.sqlite.before-30'),
  );
  expect(sweepBytes(db, folder, Date.now()).files).toBe(0);
  rmSync(join(folder, 'ash.sqlite.before-30'));
  expect(sweepBytes(db, folder, Date.now()).files).toBe(2);
  expect(existsSync(bytesPath(shelf(), hashOf(PHOTO.jpeg)))).toBe(false);
});

test('while a copy cannot be read nothing is swept: what it names nobody knows', () => {
  bytes(db).keep(Buffer.from('named by nobody'));
  age();
  backUp(db, folder, '2026-11-02');
  writeFileSync(join(folder, 'backups', 'ash-2026-11-01.sqlite'), 'damaged');
  expect(sweepBytes(db, folder, Date.now()).files).toBe(0);
  rmSync(join(folder, 'backups', 'ash-2026-11-01.sqlite'));
  expect(sweepBytes(db, folder, Date.now()).files).toBe(1);
});

test('a store of before moves its pictures and files out, and has them all', async () => {
  const old = join(folder, 'old', 'ash.sqlite');
  const before = MIGRATIONS.filter(({ version }) => version < 20);
  const then = good(openStore(old, before));
  const gcode = Buffer.from('eJwDAAAAAAE=', 'base64');
  then.exec(`insert into machine (id, body) values (1, '{}'); insert into filament (id, body) values (1, '{}');
    insert into bench (id, machine_id, bore, filament_id, created_at) values (1, 1, 0.4, 1, '${AT}');
    insert into ladder (id, bench_id, kind, spec, weights, created_at) values (1, 1, 'temperature', '{}', '{}', '${AT}')`);
  const put = (sql: string, ...values: unknown[]) => then.prepare(sql).run(...values);
  put(
    `insert into file (id, ladder_id, name, plan, sha256, bytes, gcode, program, made_at, checked)
     values (1, 1, 'a.gcode', '{"rungs":[{},{}]}', 'x', 0, ?, '1', ?, '{"a":1}')`,
    gcode,
    AT,
  );
  put(
    `insert into kept (id, bench_id, name, sha256, bytes, gcode, kept_at) values (1, 1, 'b', 'y', 0, ?, ?)`,
    gcode,
    AT,
  );
  put(`insert into print (id, file_id, printed_at) values (1, 1, ?)`, AT);
  put(`insert into print_picture (print_id, png) values (1, ?)`, Buffer.from('png'));
  put(
    `insert into photo (id, print_id, uid, jpeg, preview, width, height, reader, taken_at)
     values (1, 1, 'u', ?, ?, 4, 3, '', ?)`,
    Buffer.from('large'),
    Buffer.from('small'),
    AT,
  );
  put(
    `insert into look (print_id, photo_id, found, strip, taken_at) values (1, 1, '{}', ?, ?)`,
    Buffer.from('strip'),
    AT,
  );
  put(
    `insert into look (print_id, photo_id, found, strip, taken_at) values (1, null, '{}', null, ?)`,
    AT,
  );
  put(
    `insert into job (id, machine_id, file_id, name, state, lines, heat, started_at, ended_at, print_id)
     values (1, 1, 1, 'a', 'finished', 9, '[[0,20,205,20,60]]', ?, ?, 1)`,
    AT,
    AT,
  );
  const revision = then.prepare('select revision from print').pluck().get();
  then.close();
  const now = good(openStore(old, MIGRATIONS));
  expect(existsSync(`${old}.before-${MIGRATIONS.at(-1)!.version}`)).toBe(true);
  expect(Buffer.from(photos(now).bytes(1, 'jpeg')!).toString()).toBe('large');
  expect(Buffer.from(photos(now).bytes(1, 'preview')!).toString()).toBe('small');
  expect(Buffer.from(prints(now).picture(1)!).toString()).toBe('png');
  expect(files(now).bytes(1)).toHaveLength(0);
  expect(await kept(now).body(1)).toHaveLength(0);
  const strips = now.prepare('select id from look order by id').pluck().all() as number[];
  expect(strips.map((id) => looks(now).strip(id)?.toString() ?? null)).toEqual(['strip', null]);
  expect(now.prepare('select rungs from file').pluck().get()).toBe(2);
  expect(now.prepare('select checked from file_text').pluck().get()).toBe('{"a":1}');
  expect(now.prepare('select rows from heat').pluck().get()).toBe('[[0,20,205,20,60]]');
  // Pages that show the print are not told of a change that nobody made.
  expect(now.prepare('select revision from print').pluck().get()).toBe(revision);
  expect(now.pragma('foreign_key_check')).toEqual([]);
  expect(readFileSync(old).includes('large')).toBe(false);
  now.close();
});

test('a disk without room for it is told before anything is changed', () => {
  const path = join(folder, 'old.sqlite');
  good(openStore(path, MIGRATIONS.slice(0, 5))).close();
  const opened = openStore(path, MIGRATIONS, { free: () => 1000 });
  expect(opened.ok ? '' : opened.problems[0]!.what).toMatch(/GB of room/);
  const then = good(openStore(path, MIGRATIONS.slice(0, 5)));
  expect(then.pragma('user_version', { simple: true })).toBe(5);
  then.close();
});

test('what has been in the archive for a year is told, and goes when that is said; the rest stays', () => {
  const { print, file, made } = furnish(db, AT);
  const second = prints(db).add(file, AT);
  for (const [uid, of] of [
    ['old', print],
    ['new', print],
    ['away', second],
  ] as const)
    photos(db).add(of, { ...PHOTO, uid, jpeg: Buffer.from(uid) });
  const reading = readings(db).start(second, '', AT);
  readings(db).score(reading, { rung: 0, criterion: 'stringing', score: 2 }, AT);
  db.prepare(`update photo set deleted_at = '2025-01-01' where uid = 'old'`).run();
  db.prepare(`update print set deleted_at = '2025-01-01' where id = ?`).run(second);
  db.prepare(
    `insert into job (machine_id, file_id, name, state, lines, started_at, ended_at, print_id) values (1, ?, 'a', 'finished', 9, ?, ?, ?)`,
  ).run(file, AT, AT, second);
  const now = Date.parse('2026-11-03T00:00:00.000Z');
  const room = roomOf(db, folder, now);
  expect(room.pictures.count).toBe(3);
  expect(room.ladders.size).toBeGreaterThan(0);
  expect(made.text.length).toBeGreaterThan(room.ladders.size);
  expect(room.long.photo.count).toBe(1);
  expect(room.long.print.count).toBe(1);
  expect(forget(db, 'photo', now)).toBe(1);
  expect(
    photos(db)
      .ofPrint(print)
      .map(({ uid }) => uid),
  ).toEqual(['new']);
  expect(forget(db, 'print', now)).toBe(1);
  expect(prints(db).get(second)).toBeNull();
  expect(readings(db).get(reading)).toBeNull();
  // A job without its print would be kept as one once more.
  expect(db.prepare('select count(*) from job').pluck().get()).toBe(0);
  expect(db.pragma('foreign_key_check')).toEqual([]);
  expect(forget(db, 'reading', now)).toBe(0);
});

test('taps that were scored over or taken back go a month later; what stands is the same', () => {
  const { print } = furnish(db, AT);
  const all = readings(db);
  const reading = all.start(print, '', AT);
  const tap = (id: string, score: 0 | 1 | 2) =>
    all.score(reading, { id, rung: 0, criterion: 'stringing', score }, AT);
  tap('a', 0);
  tap('b', 1);
  tap('c', 2);
  all.undo(reading, 'c');
  const stands = all.scores(reading, 2);
  const taps = () => db.prepare('select count(*) from score_act').pluck().get();
  tidy(db, Date.parse(AT) + DAY_MS);
  expect(taps()).toBe(3);
  tidy(db, Date.parse(AT) + 31 * DAY_MS);
  expect(taps()).toBe(1);
  expect(all.scores(reading, 2)).toEqual(stands);
});

test('a page is told the taps that it does not have, and which were taken back', () => {
  const { print } = furnish(db, AT);
  const all = readings(db);
  const reading = all.start(print, '', AT);
  const tap = (id: string) =>
    all.score(reading, { id, rung: 0, criterion: 'stringing', score: 1 }, AT);
  for (let i = 0; i < 100; i++) tap(`t${i}`);
  const seen = all.revision(reading);
  expect(all.since(reading, seen)).toEqual([]);
  tap('new');
  all.undo(reading, 't7');
  expect(all.since(reading, seen).map(({ id, undone }) => [id, undone])).toEqual([
    ['t7', true],
    ['new', undefined],
  ]);
});
