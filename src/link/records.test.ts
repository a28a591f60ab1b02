import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { good } from '../core/testing';
import { migrationsIn, openStore, type Db } from '../store/open';
import { records } from './records';

const folder = mkdtempSync(join(tmpdir(), 'ash-records-'));
const path = join(folder, 'ash.sqlite');
const AT = '2026-05-04T10:00:00.000Z';
afterAll(() => rmSync(folder, { recursive: true }));

function store(): Db {
  const db = good(openStore(path, migrationsIn('src/store/migrations')));
  db.prepare(`insert into machine (id, body) values (1, ?)`).run(
    JSON.stringify({ name: 'Heron', extruder: { tools: 2 } }),
  );
  return db;
}

test('addresses are kept with what is known of the machine; jobs cut short stand as interrupted', () => {
  const db = store();
  const kept = records(path);
  kept.keepWire(1, 'tcp:127.0.0.1:4000', null, AT);
  kept.keepWire(1, 'tcp:127.0.0.1:4001', '{"name":"Calm day","seed":47}', AT);
  kept.setIdle(1, 20);
  expect(kept.wires()).toEqual([
    {
      machine: 1,
      address: 'tcp:127.0.0.1:4001',
      simulated: '{"name":"Calm day","seed":47}',
      tools: 2,
      idleMin: 20,
    },
  ]);
  const job = {
    machine: 1,
    file: null,
    kept: null,
    name: 'a.gcode',
    lines: 9,
    simulated: null,
    had: null,
  };
  const [first, second] = [kept.begin({ ...job, at: AT }), kept.begin({ ...job, at: AT })];
  const progress = {
    nudged: 0,
    lines: 9,
    keepsHeatS: null,
    hot: false,
    line: 8,
    sure: 7,
    why: null,
  };
  expect(kept.save(first, { ...progress, state: 'printing' }, [[1, 200, 205, 60, 60]], null)).toBe(
    true,
  );
  kept.save(first, { ...progress, state: 'printing' }, [[6, 204, 205, 60, 60]], null);
  const pieces = (job: number) =>
    db.prepare('select rows from heat where job_id = ? order by id').pluck().all(job);
  expect(pieces(first)).toEqual(['[[1,200,205,60,60]]', '[[6,204,205,60,60]]']);
  kept.save(second, { ...progress, state: 'printing' }, [[1, 20, 205, 60, 60]], null);
  kept.save(second, { ...progress, state: 'finished' }, [[2, 30, 205, 60, 60]], AT);
  expect(pieces(second)).toEqual(['[[2,30,205,60,60]]']);
  const nudge = { line: 4, mm: -0.02, total: -0.02, x: 10, y: null, at: AT };
  expect(kept.nudge(first, nudge)).toBe(true);
  expect(kept.nudge(first, { ...nudge, mm: 0.05, total: 0.03 })).toBe(true);
  expect(kept.interrupted(AT)).toMatchObject([{ machine: 1, sure: 7, nudged: 0.03 }]);
  expect(kept.interrupted(AT)).toEqual([]);
  const states = db.prepare('select state, why from job order by id').all();
  expect(states).toEqual([
    {
      state: 'interrupted',
      why: 'The link ended while it printed; line 7 is the last sure one. Its nozzle may still be nudged by 0.03 mm: switch the machine off and on.',
    },
    { state: 'finished', why: null },
  ]);

  // While somebody else writes, a print is not held up: it is said to try again.
  db.exec('begin immediate');
  expect(kept.save(second, { ...progress, state: 'finished' }, [], AT)).toBe(false);
  expect(kept.nudge(first, nudge)).toBe(false);
  db.exec('commit');
  expect(kept.save(second, { ...progress, state: 'finished' }, [], AT)).toBe(true);
  expect(kept.bytes(null, null)).toBeNull();
  kept.dropWire(1);
  expect(kept.wires()).toEqual([]);
  kept.close();
  db.close();
});
