/** How the store asks: no statement of it walks through a table that grows with every print. */

import Database from 'better-sqlite3';
import { good } from '../core/testing';
import { archive } from './archive';
import { benches } from './benches';
import { devices } from './devices';
import { grafts } from './grafts';
import { kept } from './kept';
import { files, ladders, prints } from './ladders';
import { ledger } from './ledger';
import { looks } from './looks';
import { migrationsIn, openStore, type Db } from './open';
import { own } from './own';
import { photos } from './photos';
import { places } from './places';
import { pressed } from './pressed';
import { readings } from './readings';
import { shakes } from './shakes';
import { TABLES } from './tables';
import { furnish, PHOTO } from './testing/furnish';
import { filaments, machines } from './things';
import { wires } from './wires';

const AT = '2026-11-02T08:00:00.000Z';
/** Tables of which there are more with every print, picture, tap or press. */
const GROWS: readonly string[] = [
  ...TABLES.filter((table) => !['machine', 'filament', 'place'].includes(table)),
  'pressed',
];
/** What is walked through on purpose, and what bounds it. */
const ALLOWED: [RegExp, string][] = [
  [/^select count\(\*\) as count from bench/, 'one count of benches for a page'],
  [/from bench join machine .* limit @most/, 'searched by a part of a name'],
  [/from bench where deleted_at is null order by id/, 'read for exports, and by the command'],
  [/^update pressed set state = 'cut'/, 'once at a start'],
];

/** Statements of a database as they are made. */
function watched(db: Db): string[] {
  const seen: string[] = [];
  const plain = db.prepare.bind(db);
  db.prepare = (sql: string) => {
    seen.push(sql.replace(/\s+/g, ' ').trim());
    return plain(sql);
  };
  return seen;
}

test('every statement of the store finds what it wants by an index', () => {
  const db = good(openStore(':memory:', migrationsIn('src/store/migrations')));
  for (let i = 0; i < 30; i++) {
    const { print } = furnish(db, AT, `Heron ${i}`);
    photos(db).add(print, { ...PHOTO, uid: `photo ${i}` });
    const reading = readings(db).start(print, '', AT);
    for (let rung = 0; rung < 8; rung++)
      readings(db).score(reading, { rung, criterion: 'stringing', score: 1 }, AT);
  }
  const statements = watched(db);
  for (const make of [
    machines,
    filaments,
    benches,
    ladders,
    files,
    kept,
    grafts,
    prints,
    readings,
    ledger,
    photos,
    looks,
    places,
    own,
    devices,
    archive,
    wires,
    shakes,
    pressed,
  ])
    make(db);
  expect(statements.length).toBeGreaterThan(80);
  const walks = statements.flatMap((sql) => {
    if (ALLOWED.some(([known]) => known.test(sql))) return [];
    const explain = Database.prototype.prepare.call(db, `explain query plan ${sql}`);
    const blanks: unknown[] = [...(sql.match(/\?/g) ?? []).map(() => null), named(sql)];
    const plan = (explain.all as (...of: unknown[]) => unknown[]).call(explain, ...blanks) as {
      detail: string;
    }[];
    return plan.flatMap(({ detail }) => {
      const [, table] = /^SCAN (\w+)(?! .*USING (COVERING )?INDEX)/.exec(detail) ?? [];
      return table && GROWS.includes(table) ? [`${sql}: ${detail}`] : [];
    });
  });
  expect(walks).toEqual([]);
  db.close();
});

/** Every named parameter of a statement, without a value. */
const named = (sql: string): Record<string, null> =>
  Object.fromEntries((sql.match(/@\w+/g) ?? []).map((name) => [name.slice(1), null]));
