import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  createWriteStream,
  existsSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { gunzipSync, gzipSync } from 'node:zlib';
import { KeptLook } from '../core/loupe/kept';
import { Wish } from '../core/graft/recipe';
import { good } from '../core/testing';
import { asideNames, backUp, backupDays, copyAside, restore } from './backups';
import { bytesPath, folderOf, hashOf } from './bytes';
import { HOLDS_NO_BENCH, importAll, prove } from './everything';
import { exportAll } from './export';
import { devices } from './devices';
import { kept } from './kept';
import { grafts } from './grafts';
import { ladders, prints } from './ladders';
import { migrationsIn, openStore, type Db } from './open';
import { own } from './own';
import { wires } from './wires';
import { TABLES } from './tables';
import { photos } from './photos';
import { places } from './places';
import { looks } from './looks';
import { readings } from './readings';
import { furnish, PHOTO } from './testing/furnish';

const MIGRATIONS = migrationsIn('src/store/migrations');
const AT = '2026-11-02T08:00:00.000Z';
const LOOK = KeptLook.parse({
  side: 'top',
  corners: null,
  found: false,
  pxPerMm: 12,
  bulge: null,
  problems: [],
  measures: [],
  flat: null,
});
const WISH = Wish.parse({ rows: [{ from: 1.4, set: { nozzle: 215 } }] });
let folder: string;
let db: Db;
const at = (name: string) => join(folder, name);

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'ash-all-'));
  db = good(openStore(at('ash.sqlite'), MIGRATIONS));
});
afterEach(() => {
  db.close();
  rmSync(folder, { recursive: true, force: true });
});

async function fill(name = 'Heron'): Promise<void> {
  const { bench, print } = furnish(db, AT, name);
  prints(db).setPicture(print, Uint8Array.from([1, 2, 255, 0]));
  photos(db).add(print, { ...PHOTO, uid: `${name}-1` });
  looks(db).put({
    printId: print,
    photoId: photos(db).ofPrint(print)[0]!.id,
    found: LOOK,
    strip: Uint8Array.from([255, 216, 0]),
    takenAt: AT,
  });
  const reading = readings(db).start(print, 'Ines · ü', AT);
  readings(db).score(reading, { rung: 0, criterion: 'stringing', score: null }, AT);
  readings(db).measure(reading, 'wall', [0.45, 1 / 3], AT);
  const file = await kept(db).keep(bench, 'joint.gcode', Buffer.from('G28\n'), AT);
  const [ladder] = ladders(db).ofBench(bench);
  grafts(db).put(ladder!.id, file, WISH);
  places(db).set('bench', String(bench));
}

const dump = (of: Db): unknown => TABLES.map((table) => of.prepare(`select * from ${table}`).all());
const pack = (path: string) => pipeline(exportAll(at('ash.sqlite')), createWriteStream(path));
const take = (path: string) => importAll(db, path, at('scratch.sqlite'), MIGRATIONS);

test('everything comes back the same, over whatever stood there', async () => {
  await fill();
  const before = dump(db);
  await pack(at('all.ash'));
  await fill('Wren');
  expect(dump(db)).not.toEqual(before);
  expect(await take(at('all.ash'))).toEqual({ ok: true, value: null });
  expect(dump(db)).toEqual(before);
});

test('a sliced file serves another bench, and a ladder remembers what it was made of', async () => {
  await fill();
  const [bench, other] = [1, furnish(db, AT, 'Wren').bench];
  const [file] = kept(db).ofBench(bench);
  const [ladder] = ladders(db).ofBench(bench);
  expect(grafts(db).of(ladder!.id)).toEqual({
    ladderId: ladder!.id,
    keptId: file!.id,
    wish: WISH,
  });
  const there = kept(db).copyTo(file!.id, other, AT)!;
  expect(kept(db).get(there)).toMatchObject({ benchId: other, name: 'joint.gcode' });
  expect(Buffer.from((await kept(db).body(there))!).toString()).toBe('G28\n');
  // The same file is there once, and one that is gone goes nowhere.
  expect(kept(db).copyTo(file!.id, other, AT)).toBe(there);
  expect(kept(db).copyTo(9999, other, AT)).toBeNull();
  expect(grafts(db).of(9999)).toBeNull();
});

test('what belongs to this computer alone neither leaves with it nor goes', async () => {
  await fill();
  own(db).set('reader', 'Ines');
  const phone = devices(db).letIn('Phone', 'Mara', 'secret-hash', AT);
  const address = 'tcp:192.0.2.7:23';
  db.prepare('insert into wire (machine_id, address, at) values (1, ?, ?)').run(address, AT);
  await pack(at('all.ash'));
  const text = gunzipSync(readFileSync(at('all.ash'))).toString();
  expect(text).not.toContain('secret-hash');
  expect(text).not.toContain(address);
  expect(await take(at('all.ash'))).toEqual({ ok: true, value: null });
  expect(wires(db).of(1)).toMatchObject({ address });
  // With other data the machine of that id is another one: its address is forgotten.
  db.prepare(`update machine set body = json_set(body, '$.name', 'Another') where id = 1`).run();
  expect(await take(at('all.ash'))).toEqual({ ok: true, value: null });
  expect(wires(db).of(1)).toBeNull();
  expect(own(db).get('reader')).toBe('Ines');
  expect(devices(db).get(phone)).toMatchObject({ name: 'Phone' });
});

test('reading that breaks off, on the way out and on the way in, is told', async () => {
  await expect(
    pipeline(exportAll(at('not-there.sqlite')), createWriteStream(at('all.ash'))),
  ).rejects.toMatchObject({ code: 'SQLITE_CANTOPEN' });
  expect(await take(at('not-there.ash'))).toMatchObject({ ok: false });
});

test('a broken file is refused whole, wherever it is broken', async () => {
  await fill();
  await pack(at('all.ash'));
  const lines = gunzipSync(readFileSync(at('all.ash')))
    .toString()
    .trimEnd()
    .split('\n');
  await fill('Wren');
  const before = dump(db);
  const tries: [string, string[]][] = [
    ['cut off', lines.slice(0, -1)],
    ['a row less', lines.filter((line) => !line.includes('Ines'))],
    ['a row changed', lines.map((line) => line.replace('Ines', 'Jana'))],
    ['a row twice', lines.flatMap((line) => (line.includes('Ines') ? [line, line] : [line]))],
    ['another format', ['{"format":"other"}', ...lines.slice(1)]],
    ['a newer schema', [lines[0]!.replace(/"schema":\d+/, '"schema":99'), ...lines.slice(1)]],
    ['no JSON', [...lines.slice(0, 3), 'rubbish', ...lines.slice(3)]],
    ['more after the end', [...lines, lines[1]!]],
    ['a piece of a picture changed', lines.map((line) => (line.startsWith('"') ? '"AAAA"' : line))],
    [
      'a picture left out',
      lines.filter((line) => !line.startsWith('"') && !/^{"bytes"/.test(line)),
    ],
    ['a line without end', [...lines.slice(0, 3), `["${'x'.repeat(17 * 2 ** 20)}`]],
    ['a strange column', lines.map((line) => line.replace('"bore"', '"bore; drop table bench"'))],
  ];
  for (const [name, broken] of tries) {
    writeFileSync(at('broken.ash'), gzipSync(`${broken.join('\n')}\n`));
    const taken = await take(at('broken.ash'));
    expect([name, taken.ok]).toEqual([name, false]);
    expect(dump(db)).toEqual(before);
  }
  writeFileSync(at('broken.ash'), readFileSync(at('all.ash')).subarray(0, 300));
  expect((await take(at('broken.ash'))).ok).toBe(false);
  writeFileSync(at('broken.ash'), 'no gzip at all');
  expect((await take(at('broken.ash'))).ok).toBe(false);
  expect(dump(db)).toEqual(before);
});

test('a picture that is lost is said to be missing; everything else goes out and comes in', async () => {
  await fill();
  rmSync(bytesPath(folderOf(at('ash.sqlite')), hashOf(PHOTO.jpeg)));
  await pack(at('all.ash'));
  const told = good(await prove(at('all.ash'), at('scratch.sqlite'), MIGRATIONS));
  expect(told).toMatchObject({ benches: 1, prints: 1, pictures: 1, missing: 1 });
  expect(existsSync(at('scratch.sqlite'))).toBe(true);
  expect(await take(at('all.ash'))).toEqual({ ok: true, value: null });
  const [photo] = photos(db).ofPrint(1);
  expect(photos(db).bytes(photo!.id, 'jpeg')).toBeNull();
  expect(photos(db).bytes(photo!.id, 'preview')).not.toBeNull();
});

test('an import that is stopped leaves nothing behind, and tells how far it was', async () => {
  await fill();
  await pack(at('all.ash'));
  const shares: number[] = [];
  const stopped = await prove(at('all.ash'), at('scratch.sqlite'), MIGRATIONS, {
    told: (_, share) => shares.push(share),
    stopped: () => shares.length > 0,
  });
  expect(stopped).toMatchObject({ problems: [{ what: 'It was stopped.' }] });
  expect(existsSync(at('scratch.sqlite'))).toBe(false);
});

test('one copy a day is made and seven are kept', async () => {
  await fill();
  for (let day = 1; day <= 9; day++) backUp(db, folder, `2026-11-0${day}`);
  backUp(db, folder, '2026-11-09');
  expect(backupDays(folder)).toHaveLength(7);
  expect(backupDays(folder)[0]).toBe('2026-11-09');
  expect(backupDays(folder).at(-1)).toBe('2026-11-03');
});

test('going back to a day brings all of it, and what is no copy is refused in words', async () => {
  await fill();
  const before = dump(db);
  backUp(db, folder, '2026-11-01');
  await fill('Wren');
  db.close();
  good(restore(folder, '2026-11-01', MIGRATIONS, AT));
  db = good(openStore(at('ash.sqlite'), MIGRATIONS));
  expect(dump(db)).toEqual(before);
  const none = restore(folder, '2020-01-01', MIGRATIONS, AT);
  expect(none.ok ? '' : none.problems[0]!.mend).toContain('2026-11-01');
  db.close();
  // A database that is ruined altogether is moved away.
  writeFileSync(at('ash.sqlite'), 'ruined');
  rmSync(at('ash.sqlite-wal'), { force: true });
  rmSync(at('ash.sqlite-shm'), { force: true });
  good(restore(folder, '2026-11-01', MIGRATIONS, AT));
  db = good(openStore(at('ash.sqlite'), MIGRATIONS));
  expect(dump(db)).toEqual(before);
});

long(
  'killed in the middle of going back, either the old or the new stands',
  async () => {
    await fill();
    const old = dump(db);
    backUp(db, folder, '2026-11-01');
    await fill('Wren');
    const now = dump(db);
    const seen = new Set<string>();
    for (let tries = 0; tries < 12; tries++) {
      db.close();
      await new Promise((resolve) => {
        const child = spawn(process.execPath, ['dist/ash-ladder.js', 'restore', '2026-11-01'], {
          env: { ...process.env, ASH_DATA: folder },
          stdio: 'ignore',
        });
        setTimeout(() => child.kill('SIGKILL'), 150 + 40 * tries);
        child.on('close', resolve);
      });
      db = good(openStore(at('ash.sqlite'), MIGRATIONS));
      expect(db.pragma('integrity_check', { simple: true })).toBe('ok');
      const stands = JSON.stringify(dump(db));
      expect([JSON.stringify(old), JSON.stringify(now)]).toContain(stands);
      seen.add(stands);
    }
    expect(seen.has(JSON.stringify(now)) || seen.has(JSON.stringify(old))).toBe(true);
  },
  60_000,
);

test('nothing is copied or changed before a file is proved whole; without a bench it is asked for once more', async () => {
  await pack(at('nothing.ash'));
  await fill();
  await pack(at('all.ash'));
  const before = dump(db);
  const copied = jest.fn(() => Promise.resolve());
  const taking = (path: string, mayBeEmpty = false) =>
    importAll(db, path, at('scratch.sqlite'), MIGRATIONS, copied, mayBeEmpty);
  const whole = readFileSync(at('all.ash'));
  writeFileSync(at('half.ash'), whole.subarray(0, 2000));
  expect((await taking(at('half.ash'))).ok).toBe(false);
  const none = createHash('sha256').digest('hex');
  const lines = [
    { format: 'ash-ladder/everything', version: 1, schema: 0 },
    { end: 'everything', rows: 0, sha256: none },
  ];
  const text = lines.map((line) => JSON.stringify(line)).join('\n');
  writeFileSync(at('old.ash'), gzipSync(text));
  expect((await taking(at('old.ash'))).ok).toBe(false);
  expect(await taking(at('nothing.ash'))).toMatchObject({ problems: [{ where: HOLDS_NO_BENCH }] });
  expect(copied).not.toHaveBeenCalled();
  expect(dump(db)).toEqual(before);
  expect(await taking(at('nothing.ash'), true)).toEqual({ ok: true, value: null });
  expect(copied).toHaveBeenCalledTimes(1);
});

test('what stood before an import is copied with its date, listed, and gone back to; the newest five are kept', async () => {
  await fill();
  const before = dump(db);
  const names: string[] = [];
  for (let day = 1; day <= 6; day++) {
    const path = copyAside(db, folder, `2026-11-0${day}T08:00:00.000Z`);
    // Made within one moment here, on six days there.
    utimesSync(path, day, day);
    names.unshift(basename(path, '.sqlite'));
  }
  expect(asideNames(folder)).toEqual(names.slice(0, 5));
  expect(names[0]).toBe('before-import-2026-11-06T08-00-00');
  await fill('Wren');
  db.close();
  good(restore(folder, names[0]!, MIGRATIONS, '2026-11-07T08:00:00.000Z'));
  db = good(openStore(at('ash.sqlite'), MIGRATIONS));
  expect(dump(db)).toEqual(before);
  expect(asideNames(folder)[0]).toBe('before-restore-2026-11-07T08-00-00');
});
