/** A store as each earlier program left it opens with this one: nothing lost, a copy beside it first. */

import Database from 'better-sqlite3';
import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { good } from '../core/testing';
import { migrationsIn, openStore } from './open';

const MIGRATIONS = migrationsIn('src/store/migrations');
const NEWEST = MIGRATIONS.at(-1)!.version;
let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'ash-each-'));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

/** What the first program kept: a print with a file and a score, in the words of its tables. */
const FIRST = `
insert into machine (id, body) values (1, '{"name":"Heron"}');
insert into filament (id, body) values (1, '{"name":"Moss"}');
insert into bench (id, machine_id, bore, filament_id, created_at) values (1, 1, 0.4, 1, '2026-01-02T08:00:00Z');
insert into ladder (id, bench_id, kind, spec, weights, created_at)
  values (1, 1, 'temperature', '{}', '{}', '2026-01-02T08:01:00Z');
insert into file (id, ladder_id, name, plan, sha256, bytes, gcode, program, made_at)
  values (1, 1, 'heron.gcode', '{}', 'ab', 3, x'473238', 'ash 0.0.1', '2026-01-02T08:02:00Z');
insert into print (id, file_id, printed_at) values (1, 1, '2026-01-02T09:00:00Z');
insert into reading (id, print_id, reader, started_at) values (1, 1, 'Ines', '2026-01-02T10:00:00Z');
insert into score_act (id, reading_id, rung, criterion, score, at)
  values (1, 1, 2, 'stringing', 3, '2026-01-02T10:01:00Z');
insert into ledger (id, bench_id, setting, value, base, ladder_id, found_at)
  values (1, 1, 'nozzle-temperature', 205, '{}', 1, '2026-01-02T11:00:00Z');
`;

test.each(MIGRATIONS.slice(0, -1).map(({ version }) => version))('of version %i', (version) => {
  const path = join(folder, 'ash.sqlite');
  const upTo = (last: number) => MIGRATIONS.filter((one) => one.version <= last);
  const first = good(openStore(path, upTo(1)));
  first.exec(FIRST);
  first.close();
  good(openStore(path, upTo(version), { copies: false })).close();

  const db = good(openStore(path, MIGRATIONS));
  expect(db.pragma('user_version', { simple: true })).toBe(NEWEST);
  expect(db.pragma('integrity_check', { simple: true })).toBe('ok');
  expect(db.pragma('foreign_key_check')).toEqual([]);
  for (const table of ['machine', 'filament', 'bench', 'ladder', 'file', 'print', 'reading'])
    expect(db.prepare(`select count(*) from ${table}`).pluck().get()).toBe(1);
  expect(db.prepare(`select reader from reading`).pluck().get()).toBe('Ines');
  db.close();

  const copy = `${path}.before-${NEWEST}`;
  expect(existsSync(copy)).toBe(true);
  const before = new Database(copy, { readonly: true });
  expect(before.pragma('user_version', { simple: true })).toBe(version);
  before.close();
});
