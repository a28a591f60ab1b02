import Database from 'better-sqlite3';
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { MACHINES } from '../core/bench/presets';
import { timesOf } from '../core/motion/times';
import { baseOf } from '../core/route/base';
import { benchFor, good } from '../core/testing';
import { archive } from './archive';
import { benches } from './benches';
import { kept } from './kept';
import { files, ladders, prints } from './ladders';
import { ledger } from './ledger';
import { migrationsIn, openStore, type Db } from './open';
import { places } from './places';
import { readings } from './readings';
import { furnish } from './testing/furnish';
import { machines } from './things';

const MIGRATIONS = migrationsIn('src/store/migrations');
/** The version after the newest. */
const NEXT = MIGRATIONS.length + 1;
const AT = '2026-11-02T08:00:00.000Z';
let folder: string;
let db: Db;

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'ash-store-'));
  db = good(openStore(join(folder, 'ash.sqlite'), MIGRATIONS));
});
afterEach(() => {
  db.close();
  rmSync(folder, { recursive: true, force: true });
});

/** A bench with one ladder, one file, one print, one reading. */
function furnished() {
  const all = furnish(db, AT);
  return { ...all, reading: readings(db).start(all.print, 'Ines', AT) };
}

test('writes are durable: WAL, full sync, foreign keys', () => {
  expect(db.pragma('journal_mode', { simple: true })).toBe('wal');
  expect(db.pragma('synchronous', { simple: true })).toBe(2);
  expect(db.pragma('foreign_keys', { simple: true })).toBe(1);
});

test('what is put in comes out the same', () => {
  const { bench, ladder, file, made } = furnished();
  expect(benches(db).get(bench)!.bench).toEqual(benchFor());
  expect(ladders(db).get(ladder)).toMatchObject({
    spec: { from: 205, to: 200 },
    weights: { stringing: 1 },
  });
  expect(Buffer.from(files(db).bytes(file)!).toString()).toBe(made.text);
  expect(files(db).get(file)!.plan).toEqual(made.plan);
  expect(prints(db).ofLadder(ladder)).toHaveLength(1);
});

test('what was only looked at is on no list, and is set up anew the next time; what was changed stays', () => {
  const { bench, ladder } = furnished();
  const all = ladders(db);
  const listed = () => ({
    ladders: all.ofBench(bench).map(({ id }) => id),
    progress: all.progress(bench).map(({ id }) => id),
  });
  const before = listed();
  expect(before).toEqual({ ladders: [ladder], progress: [ladder] });
  const look = (spec: Record<string, number>, kind = 'retraction') =>
    all.addToLookAt({ benchId: bench, kind, spec, weights: {}, createdAt: AT });
  const first = look({ from: 1 });
  expect(look({ from: 2 })).toBe(first);
  expect(all.get(first)!.spec).toEqual({ from: 2 });
  expect(look({ from: 1 }, 'flow')).not.toBe(first);
  expect(listed()).toEqual(before);
  // The one with a file is another kind's ladder, and is never taken again.
  expect(look({ from: 210 }, 'temperature')).not.toBe(ladder);
  all.changeSpec(first, { from: 3 });
  expect(listed().ladders).toEqual([first, ladder]);
  expect(listed().progress).toEqual([first, ladder]);
  expect(look({ from: 4 })).not.toBe(first);
  expect(all.get(first)!.spec).toEqual({ from: 3 });
  const chosen = { benchId: bench, kind: 'flow', spec: { from: 7 }, weights: {}, createdAt: AT };
  const kept = all.addChosen(chosen);
  expect(listed().ladders[0]).toBe(kept);
  expect(look({ from: 1 }, 'flow')).not.toBe(kept);
});

test('a design that was set up before there was looking at stays on its list', () => {
  const path = join(folder, 'before.sqlite');
  const before = good(openStore(path, MIGRATIONS.slice(0, 21)));
  const machine = machines(before).add(MACHINES.heron);
  before.exec(`
    insert into filament (body) values ('{}');
    insert into bench (machine_id, bore, filament_id, created_at) values (${machine}, 0.4, 1, '${AT}');
    insert into ladder (bench_id, kind, spec, weights, created_at) values (1, 'flow', '{}', '{}', '${AT}')`);
  before.close();
  const after = good(openStore(path, MIGRATIONS));
  expect(ladders(after).ofBench(1)).toHaveLength(1);
  after.close();
});

test('the same three are the same bench, the same bytes the same file', () => {
  const { machine, filament, bench, ladder, file, made } = furnished();
  expect(benches(db).join(machine, 0.4, filament, AT)).toBe(bench);
  expect(files(db).keep(ladder, made.text, made.plan, AT)).toBe(file);
});

test('putting away hides, and can be undone', () => {
  const { bench } = furnished();
  archive(db).putAway('bench', bench, AT);
  expect(benches(db).all()).toEqual([]);
  expect(archive(db).all(10)).toMatchObject([{ shelf: 'bench', id: bench, at: AT }]);
  archive(db).restore('bench', bench);
  expect(benches(db).all()).toHaveLength(1);
  expect(archive(db).all(10)).toEqual([]);
});

test('the newest tap stands, an undo names its act, and "can’t tell" is not nothing', () => {
  const { reading } = furnished();
  const store = readings(db);
  const tap = (id: string, rung: number, score: 2 | 4 | null) =>
    store.score(reading, { id, rung, criterion: 'stringing', score }, AT);
  tap('a', 0, 2);
  tap('b', 0, 4);
  tap('c', 1, null);
  expect(store.scores(reading, 2)).toEqual({ stringing: [4, null] });
  expect(store.answered(reading).map(({ id }) => id)).toEqual(['a', 'b', 'c']);
  // Of two tabs each takes back its own.
  expect(store.undo(reading, 'b')).toBe(true);
  expect(store.scores(reading, 2)).toEqual({ stringing: [2, null] });
  expect(store.undo(reading, 'nothing')).toBe(false);
});

test('an act that is sent twice is kept once, and stays undone once it was', () => {
  const { reading } = furnished();
  const store = readings(db);
  const tap = { id: 'a', rung: 0, criterion: 'stringing', score: 3 } as const;
  store.score(reading, tap, AT);
  store.score(reading, tap, AT);
  expect(store.answered(reading)).toHaveLength(1);
  const before = store.revision(reading);
  store.undo(reading, 'a');
  store.undo(reading, 'a');
  store.score(reading, tap, AT);
  expect(store.answered(reading)).toEqual([]);
  expect(store.revision(reading)).toBe(before + 1);
});

test('a new value retires the old one, and taking it back revives it', () => {
  const { bench } = furnished();
  const put = (value: number) =>
    ledger(db).put({
      benchId: bench,
      setting: 'nozzle',
      value,
      low: value - 2,
      high: value + 2,
      base: baseOf(benchFor()),
      ladderId: null,
      simulated: false,
      foundAt: AT,
    });
  put(205);
  const second = put(202);
  expect(
    ledger(db)
      .current(bench)
      .map(({ value }) => value),
  ).toEqual([202]);
  expect(
    ledger(db)
      .all(bench)
      .map(({ value }) => value),
  ).toEqual([202, 205]);
  expect(ledger(db).takeBack(second)).toBe(true);
  expect(
    ledger(db)
      .current(bench)
      .map(({ value }) => value),
  ).toEqual([205]);
  expect(ledger(db).takeBack(second)).toBe(false);
});

test('a value that is in the machine itself is known as such, until another takes its place', () => {
  const { bench } = furnished();
  const common = { benchId: bench, low: null, high: null, base: {}, ladderId: null, foundAt: AT };
  const entry = { ...common, setting: 'zOffset', value: -0.04, simulated: false } as const;
  const id = ledger(db).put(entry);
  expect(benches(db).get(bench)!.bench.carried).toBeUndefined();
  expect(ledger(db).carry(id, AT)).toBe(true);
  expect(benches(db).get(bench)!.bench).toMatchObject({
    tuned: { zOffset: -0.04 },
    carried: ['zOffset'],
  });
  expect(ledger(db).carry(id, null)).toBe(true);
  expect(benches(db).get(bench)!.bench.carried).toBeUndefined();
  ledger(db).carry(id, AT);
  ledger(db).put({ ...entry, value: 0.02 });
  expect(benches(db).get(bench)!.bench.carried).toBeUndefined();
  // One that was replaced says nothing any more.
  expect(ledger(db).carry(id, AT)).toBe(false);
});

test('values that one finding put down are taken back together, and simulated ones reach no file', () => {
  const { bench } = furnished();
  const ladderId = ladders(db).add({
    benchId: bench,
    kind: 'nozzle-alignment',
    spec: {},
    weights: {},
    createdAt: AT,
  });
  const common = { benchId: bench, low: null, high: null, base: {}, ladderId, foundAt: AT };
  ledger(db).put({ ...common, setting: 'flow', value: 0.9, simulated: false, ladderId: null });
  ledger(db).put({ ...common, setting: 'offsetY', value: 0.2, simulated: true });
  const x = ledger(db).put({ ...common, setting: 'offsetX', value: 0.1, simulated: true });
  expect(benches(db).get(bench)!.bench.tuned).toEqual({ flow: 0.9 });
  expect(ledger(db).takeBack(x)).toBe(true);
  expect(
    ledger(db)
      .current(bench)
      .map(({ setting }) => setting),
  ).toEqual(['flow']);
});

test('a row that was tampered with is refused on the way out', () => {
  const { machine } = furnished();
  db.prepare(`update machine set body = '{"name":""}' where id = ?`).run(machine);
  expect(() => machines(db).get(machine)).toThrow();
});

test('a file from elsewhere comes back byte for byte, and is kept once', async () => {
  const { bench } = furnished();
  const bytes = new TextEncoder().encode('G28\r\nG1 X1 ; \u00e4\n\u0000');
  const id = await kept(db).keep(bench, 'mask.gcode', bytes, AT);
  expect(new Uint8Array((await kept(db).body(id))!)).toEqual(bytes);
  expect(await kept(db).keep(bench, 'mask again.gcode', bytes, AT)).toBe(id);
  expect(kept(db).ofBench(bench)).toEqual([
    { id, benchId: bench, name: 'mask again.gcode', bytes: bytes.length, keptAt: AT },
  ]);
  expect(archive(db).putAway('file', id, AT)).toBe(true);
  expect(kept(db).ofBench(bench)).toEqual([]);
  expect(archive(db).restore('file', id)).toBe(true);
  expect(kept(db).get(id)!.name).toBe('mask again.gcode');
  expect(await kept(db).body(id + 1)).toBeNull();
  await expect(kept(db).keep(999, 'x', bytes, AT)).rejects.toMatchObject({
    code: 'SQLITE_CONSTRAINT_FOREIGNKEY',
  });
});

test('a simulated print keeps its machine and its picture; a real one has neither', () => {
  const { file, print, ladder } = furnished();
  const simulated = { name: 'Calm day', seed: 47 };
  const trial = prints(db).add(file, AT, simulated);
  const png = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 1, 2, 3);
  prints(db).setPicture(trial, png);
  expect(prints(db).get(trial)!.simulated).toEqual(simulated);
  expect(new Uint8Array(prints(db).picture(trial)!)).toEqual(png);
  expect(prints(db).get(print)!.simulated).toBeNull();
  expect(prints(db).picture(print)).toBeNull();
  expect(
    prints(db)
      .ofLadder(ladder)
      .map((one) => one.simulated?.seed ?? null),
  ).toEqual([null, 47]);
});

test('a table goes with its value, into the history and back', () => {
  const { bench, ladder } = furnished();
  const entry = {
    benchId: bench,
    setting: 'advance' as const,
    low: null,
    high: null,
    base: baseOf(benchFor()),
    ladderId: ladder,
    simulated: false,
    foundAt: AT,
  };
  const rows = [{ lean: 42, speed: 88, advance: 0.05 }];
  ledger(db).put({ ...entry, value: 0.05, rows });
  expect(ledger(db).current(bench)[0]!.rows).toEqual(rows);
  // Columns come back in their order: it is that in which they are pasted.
  const [kept] = ledger(db).current(bench);
  expect(Object.keys(kept!.rows![0]!)).toEqual(Object.keys(rows[0]!));
  const later = ledger(db).put({ ...entry, value: 0.06, foundAt: '2026-11-03T08:00:00.000Z' });
  expect(ledger(db).current(bench)[0]!.rows).toBeNull();
  expect(ledger(db).takeBack(later)).toBe(true);
  expect(ledger(db).current(bench)[0]!.rows).toEqual(rows);
});

test('a value is proven by a print, until it is taken back or another value stands', () => {
  const { bench, ladder } = furnished();
  const entry = {
    benchId: bench,
    setting: 'flow' as const,
    low: null,
    high: null,
    base: baseOf(benchFor()),
    ladderId: null,
    simulated: false,
    foundAt: AT,
  };
  const id = ledger(db).put({ ...entry, value: 0.97 });
  const now = () => ledger(db).current(bench)[0]!;
  expect(now().provenAt).toBeNull();
  expect(ledger(db).prove(id, { at: AT, ladder })).toBe(true);
  expect([now().provenAt, now().provenBy]).toEqual([AT, ladder]);
  expect(ledger(db).prove(id, null)).toBe(true);
  expect([now().provenAt, now().provenBy]).toEqual([null, null]);
  ledger(db).put({ ...entry, value: 0.98 });
  expect(now().provenAt).toBeNull();
  // What stands in the history is not proven any more.
  expect(ledger(db).prove(id, { at: AT, ladder })).toBe(false);
});

test('the ledger says which values only a simulated machine has shown', () => {
  const { bench, ladder } = furnished();
  const entry = {
    benchId: bench,
    setting: 'nozzle' as const,
    low: null,
    high: null,
    base: baseOf(benchFor()),
    ladderId: ladder,
    foundAt: AT,
  };
  ledger(db).put({ ...entry, value: 205, simulated: true });
  expect(ledger(db).current(bench)[0]!.simulated).toBe(true);
  ledger(db).put({ ...entry, value: 203, simulated: false });
  expect(
    ledger(db)
      .all(bench)
      .map((one) => one.simulated),
  ).toEqual([false, true]);
});

test('a file of ours is known again by its bytes', () => {
  const { file, made } = furnished();
  expect(files(db).same(Buffer.from(made.text))!.id).toBe(file);
  expect(files(db).same(Buffer.from(`${made.text} `))).toBeNull();
});

test('a ladder stands for the file that was made of it last, also where its bytes were there before', () => {
  const { ladder, made } = furnished();
  const kept = files(db);
  const keep = (text: string) => kept.keep(ladder, text, made.plan, AT);
  const first = keep('G28 ; 220 to 190');
  const second = keep('G28 ; 215 to 195');
  expect(kept.currentOf(ladder)!.id).toBe(second);
  expect(keep('G28 ; 220 to 190')).toBe(first);
  expect(kept.currentOf(ladder)!.id).toBe(first);
});

test('places are kept', () => {
  places(db).set('bench', '1');
  places(db).set('bench', '2');
  expect(places(db).get('bench')).toBe('2');
  expect(places(db).get('nowhere')).toBeNull();
});

test('a database from a newer program is refused with words, untouched', () => {
  db.pragma('user_version = 99');
  const refused = openStore(join(folder, 'ash.sqlite'), MIGRATIONS);
  expect(refused).toMatchObject({ ok: false });
  expect(db.pragma('user_version', { simple: true })).toBe(99);
});

test('a migration that fails leaves the database as it was', () => {
  const next = [...MIGRATIONS, { version: NEXT, sql: 'create table extra (id); nonsense;' }];
  db.close();
  expect(() => openStore(join(folder, 'ash.sqlite'), next)).toThrow();
  db = good(openStore(join(folder, 'ash.sqlite'), MIGRATIONS));
  expect(db.prepare(`select count(*) as n from sqlite_master where name = 'extra'`).get()).toEqual({
    n: 0,
  });
});

test('an older database is copied before it is changed', () => {
  furnished();
  db.close();
  const next = [...MIGRATIONS, { version: NEXT, sql: 'create table extra (id integer) strict;' }];
  db = good(openStore(join(folder, 'ash.sqlite'), next));
  expect(readdirSync(folder)).toContain(`ash.sqlite.before-${NEXT}`);
  const copy = new Database(join(folder, `ash.sqlite.before-${NEXT}`));
  expect(copy.pragma('user_version', { simple: true })).toBe(NEXT - 1);
  expect(copy.prepare('select count(*) as n from bench').get()).toEqual({ n: 1 });
  copy.close();
});

test('a file that is no database is refused with words', () => {
  const path = join(folder, 'other.sqlite');
  writeFileSync(path, 'this is not a database, but a long enough text to look at'.repeat(20));
  expect(openStore(path, MIGRATIONS).ok).toBe(false);
});

describe('a value of a real machine and one of a simulated machine', () => {
  const value = (bench: number, simulated: boolean, value: number) => ({
    benchId: bench,
    setting: 'nozzle' as const,
    value,
    low: null,
    high: null,
    base: {},
    ladderId: null,
    simulated,
    foundAt: AT,
  });
  const current = (bench: number) =>
    ledger(db)
      .current(bench)
      .map((entry) => [entry.value, entry.simulated]);

  test('stand side by side, and neither retires the other', () => {
    const { bench } = furnished();
    ledger(db).put(value(bench, false, 205));
    const tried = ledger(db).put(value(bench, true, 212));
    expect(current(bench)).toEqual([
      [205, false],
      [212, true],
    ]);
    ledger(db).put(value(bench, false, 204));
    expect(current(bench)).toEqual([
      [204, false],
      [212, true],
    ]);
    // The real one stays in files for the real machine, whatever the simulated one does.
    expect(benches(db).get(bench)!.bench.tuned).toEqual({ nozzle: 204 });
    ledger(db).takeBack(tried);
    expect(current(bench)).toEqual([[204, false]]);
  });

  test('a store in which one had retired the other gets both back', () => {
    const path = join(folder, 'older.sqlite');
    const older = good(openStore(path, MIGRATIONS.slice(0, 4)));
    older.exec(`insert into machine (body) values ('{}'); insert into filament (body) values ('{}');
      insert into bench (machine_id, bore, filament_id, created_at) values (1, 0.4, 1, '');
      insert into ledger (bench_id, setting, value, base, found_at, simulated, replaced_at)
      values (1, 'nozzle', 205, '{}', '', 0, 'x'), (1, 'nozzle', 207, '{}', '', 0, 'x'),
             (1, 'nozzle', 212, '{}', '', 1, null)`);
    older.exec(`insert into ladder (bench_id, kind, spec, weights, created_at) values (1, 'k', '{}', '{}', '');
      insert into file (ladder_id, name, plan, sha256, bytes, gcode, program, made_at) values (1, '', '{}', '', 0, x'', '', '');
      insert into print (file_id, printed_at) values (1, '');
      insert into reading (print_id, reader, started_at) values (1, '', '');
      insert into score_act (reading_id, rung, criterion, score, at) values (1, 0, 'hairs', 3, ''), (1, 1, 'hairs', 2, '')`);
    older.close();
    const now = good(openStore(path, MIGRATIONS));
    expect(
      ledger(now)
        .current(1)
        .map((entry) => [entry.value, entry.simulated]),
    ).toEqual([
      [207, false],
      [212, true],
    ]);
    expect(
      new Set(
        readings(now)
          .answered(1)
          .map(({ id }) => id),
      ).size,
    ).toBe(2);
    now.close();
  });
});

test('how far ladders are is told without reading plans or taps', () => {
  const { bench, ladder, print, reading } = furnished();
  const state = () => {
    const { begun, partial, print: newest } = ladders(db).progress(bench)[0]!;
    return { begun, partial, newest };
  };
  expect(state()).toEqual({ begun: 0, partial: 0, newest: print });
  readings(db).score(reading, { rung: 0, criterion: 'stringing', score: 3 }, AT);
  expect(state()).toEqual({ begun: 1, partial: 1, newest: print });
  readings(db).score(reading, { rung: 1, criterion: 'stringing', score: null }, AT);
  expect(state()).toEqual({ begun: 1, partial: 0, newest: print });
  archive(db).putAway('reading', reading, AT);
  expect(state()).toEqual({ begun: 0, partial: 0, newest: print });
  archive(db).putAway('print', print, AT);
  expect(state()).toEqual({ begun: 0, partial: 0, newest: null });
  archive(db).putAway('ladder', ladder, AT);
  expect(ladders(db).progress(bench)).toEqual([]);
});

test('lists are read by name, the newest first, as many as are asked for', () => {
  const { bench } = furnished();
  machines(db).add({ ...MACHINES.wren, name: 'Wren two' });
  expect(machines(db).names(1)).toEqual([{ id: 2, name: 'Wren two' }]);
  expect(
    machines(db)
      .names(9, 'HERON')
      .map(({ name }) => name),
  ).toEqual(['Heron']);
  expect(machines(db).count()).toBe(2);
  expect(benches(db).titles(9, 'moss')).toEqual([
    { id: bench, title: 'Heron · 0.4 mm · Moss matte PLA', tuned: 0 },
  ]);
  expect(benches(db).titles(9, 'nothing')).toEqual([]);
  const { filamentId } = benches(db).get(bench)!;
  expect(benches(db).tunedOf(filamentId)).toEqual([]);
  const found = { benchId: bench, low: 1, high: 2, base: {}, ladderId: null, foundAt: AT };
  for (const [setting, simulated] of [
    ['flow', false],
    ['nozzle', false],
    ['nozzle', true],
    ['retraction', true],
  ] as const)
    ledger(db).put({ ...found, setting, value: 1.5, simulated });
  // What a simulated machine showed is nothing that is tuned.
  expect(benches(db).titles(9)[0]!.tuned).toBe(2);
  expect(benches(db).tunedOf(filamentId)).toEqual([{ machine: 'Heron', bore: 0.4, tuned: 2 }]);
  expect([
    benches(db).first(),
    benches(db).has(bench),
    benches(db).has(99),
    benches(db).count(),
  ]).toEqual([bench, true, false, 1]);
});

test('what the check of a file said is kept with it, and asked for again when it does not say all', () => {
  const { file, made } = furnish(db, AT);
  const kept = files(db);
  expect(kept.checked(file)).toBeNull();
  const told = { audited: made.audit, times: timesOf(made.trace, made.motion) };
  kept.keepChecked(file, told);
  expect(kept.checked(file)).toEqual(told);
  db.prepare(`update file_text set checked = '{"audited":{}}' where file_id = ?`).run(file);
  expect(kept.checked(file)).toBeNull();
  expect(kept.checked(999)).toBeNull();
});
