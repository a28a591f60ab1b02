/** A store as it was filled before plans had axes and criteria had their names of today. */

import { createWriteStream, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { gunzipSync } from 'node:zlib';
import { CRITERION_NAMES } from '../core/criteria';
import { kindOf } from '../core/ladders/registry';
import { findValue } from '../core/reading/find-value';
import { good, told } from '../core/testing';
import { importAll } from './everything';
import { exportAll } from './export';
import { files, ladders, prints } from './ladders';
import { migrationsIn, openStore, type Db } from './open';
import { readings } from './readings';

const MIGRATIONS = migrationsIn('src/store/migrations');
let folder: string;
const at = (name: string) => join(folder, name);
const unpack = (): string => {
  writeFileSync(at('ash.sqlite'), gunzipSync(readFileSync('src/store/testing/store-5.sqlite.gz')));
  return at('ash.sqlite');
};

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'ash-older-'));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

/** What the program of then found in this store, ladder by ladder. */
const SAID = [
  [1, 201, [201, 203]],
  [2, 214, [211, 217]],
  [3, 0.057, [0.053, 0.063]],
  [4, 1800, [1250, 2600]],
] as const;

/** Everything of a ladder that its finding needs, and the finding. */
function findingIn(db: Db, ladderId: number) {
  const { kind: id, weights } = ladders(db).get(ladderId)!;
  const kind = good(kindOf(id));
  const copies = prints(db).ofLadder(ladderId);
  const { plan } = files(db).get(copies[0]!.fileId)!;
  const scores = copies.flatMap((print) =>
    readings(db)
      .ofPrint(print.id)
      .map((row) => readings(db).scores(row.id, plan.rungs.length)),
  );
  return told(findValue(kind, plan, plan.bench, { readings: scores, weights }));
}

const check = (db: Db) => {
  for (const id of [1, 2, 3, 4]) {
    const { kind, weights } = ladders(db).get(id)!;
    const names = good(kindOf(kind)).criteria.map(({ name }) => name as string);
    expect(Object.keys(weights)).toEqual(names);
    for (const name of names) expect(CRITERION_NAMES).toContain(name);
    const { plan } = files(db).currentOf(id)!;
    expect(plan.version).toBe(2);
    expect(plan.axes).toHaveLength(1);
  }
  // What a value stands on is compared name by name: a name that changed would tell of a change that is none.
  for (const { base } of db.prepare('select base from ledger').all() as { base: string }[]) {
    expect(base).toContain('"extruder":');
    expect(base).not.toContain('feeder');
  }
  // What was scored then says today what it said then.
  for (const [id, value, range] of SAID) {
    const found = findingIn(db, id);
    expect([found.verdict, found.value, found.range]).toEqual(['value', value, range]);
  }
};

test('it is opened with its plans, criteria, weights and findings', () => {
  const db = good(openStore(unpack(), MIGRATIONS));
  check(db);
  db.close();
});

test('everything of then, as one file, is taken in as well', async () => {
  await pipeline(exportAll(unpack()), createWriteStream(at('all.ash')));
  const db = good(openStore(at('new.sqlite'), MIGRATIONS));
  expect(await importAll(db, at('all.ash'), at('scratch.sqlite'), MIGRATIONS)).toEqual({
    ok: true,
    value: null,
  });
  check(db);
  db.close();
});
