import { good } from '../core/testing';
import { migrationsIn, openStore, type Db } from './open';
import { furnish } from './testing/furnish';
import { wires } from './wires';

const AT = '2026-11-02T08:00:00.000Z';
const END = '2026-11-02T08:24:00.000Z';
let db: Db;
let all: ReturnType<typeof furnish>;

beforeEach(() => {
  db = good(openStore(':memory:', migrationsIn('src/store/migrations')));
  all = furnish(db, AT);
});
afterEach(() => db.close());

/** A job as the link writes it. */
function sent(more: { state?: string; endedAt?: string | null; had?: string | null } = {}): number {
  const { state = 'finished', endedAt = END, had = null } = more;
  const { lastInsertRowid } = db
    .prepare(
      `insert into job (machine_id, file_id, name, state, line, sure, lines, had, started_at, ended_at)
       values (?, ?, 'a.gcode', ?, 90, 88, 99, ?, ?, ?)`,
    )
    .run(all.machine, all.file, state, had, AT, endedAt);
  // It comes in pieces.
  const heat = db.prepare(`insert into heat (job_id, rows) values (?, ?)`);
  heat.run(lastInsertRowid, '[[0, 20, 205, 20, 60]]');
  heat.run(lastInsertRowid, '[[60, 204, 205, 60, 60]]');
  return Number(lastInsertRowid);
}
const nudged = (job: number, mm: number, total: number) =>
  db
    .prepare(
      `insert into nudge (job_id, line, mm, total, x, y, at) values (?, 40, ?, ?, 1, null, ?)`,
    )
    .run(job, mm, total, AT);

test('a job that came to its end waits to stand as printed, once, with what its machine had', () => {
  const store = wires(db);
  sent({ state: 'printing', endedAt: null });
  const job = sent({ had: '{"zOffset":-0.04,"steps":415}' });
  expect(store.finished()).toEqual([
    {
      id: job,
      machineId: all.machine,
      fileId: all.file,
      endedAt: END,
      simulated: null,
      had: { zOffset: -0.04, steps: 415 },
    },
  ]);
  expect(store.printed(job, all.print)).toBe(true);
  expect(store.printed(job, all.print)).toBe(false);
  expect(store.finished()).toEqual([]);
});

test('how a copy was printed and what was nudged on it are told by its print, the oldest first', () => {
  const store = wires(db);
  const job = sent();
  nudged(job, -0.05, -0.05);
  nudged(job, 0.02, -0.03);
  nudged(sent(), 0.05, 0.05);
  expect(store.nudgesOf(all.print)).toEqual([]);
  expect(store.runOf(all.print)).toBeNull();
  store.printed(job, all.print);
  expect(store.nudgesOf(all.print).map(({ total }) => total)).toEqual([-0.05, -0.03]);
  expect(store.nudges(job)[0]).toMatchObject({ line: 40, x: 1, y: null });
  const run = store.runOf(all.print)!;
  expect([run.startedAt, run.endedAt]).toEqual([AT, END]);
  expect(run.heat).toHaveLength(2);
  expect(run.heat[1]![1]).toBe(204);
});

test('a job is told by its number; one of a kept file is none of a ladder', () => {
  const store = wires(db);
  const job = sent();
  expect(store.job(job)).toMatchObject({ fileId: all.file, line: 90, nudged: 0, endedAt: END });
  db.prepare(`update job set file_id = null where id = ?`).run(job);
  expect(store.job(job)).toBeNull();
  expect(store.job(999)).toBeNull();
});

test('what was put last is told by setting, and marked as stored one by one', () => {
  const store = wires(db);
  const put = (setting: 'advance' | 'jerk', value: number) =>
    store.put({ machineId: all.machine, setting, value, before: null, simulated: false, at: AT });
  put('advance', 0.04);
  const newest = put('advance', 0.05);
  const jerk = put('jerk', 8);
  expect(store.inForce(all.machine).map(({ id }) => id)).toEqual([newest, jerk]);
  store.stored(newest);
  expect(store.inForce(all.machine).map(({ stored }) => stored)).toEqual([true, false]);
});

test('machines that something ended on are told, those that are only warm are not', () => {
  const add = db.prepare(
    `insert into owed (address, machine_id, name, tools, why, state, since)
     values (?, ?, 'Heron', 1, ?, 'unheard', ?)`,
  );
  add.run('tcp:a:1', all.machine, null, AT);
  add.run('tcp:b:1', all.machine, 'the link was lost', AT);
  expect(wires(db).owed()).toEqual([
    {
      machine: all.machine,
      name: 'Heron',
      address: 'tcp:b:1',
      why: 'the link was lost',
      since: AT,
      state: 'unheard',
    },
  ]);
});

test('a finished job that cannot be read is no trouble of the others', () => {
  const store = wires(db);
  sent({ had: '{"zOffset":' });
  const job = sent();
  expect(store.finished().map(({ id }) => id)).toEqual([job]);
});
