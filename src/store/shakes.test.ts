import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { good } from '../core/testing';
import { fromEchoes } from '../core/shake/kept';
import { archive } from './archive';
import { kept } from './kept';
import { MACHINES } from '../core/bench/presets';
import { ledger } from './ledger';
import { migrationsIn, openStore, type Db } from './open';
import { shakes } from './shakes';
import { furnish } from './testing/furnish';
import { machines } from './things';

/** The rows of named commands and of column C as they were before shapers had axes and kinds. */
const BEFORE = {
  wren: 'SET_INPUT_SHAPER SHAPER_FREQ_X={frequency} SHAPER_FREQ_Y={frequency} DAMPING_RATIO_X={damping} DAMPING_RATIO_Y={damping}',
  newt: 'M593 P"zvd" F{frequency} S{damping}',
};

const AT = '2026-11-27T08:00:00.000Z';
let folder: string;
let db: Db;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'ash-shakes-'));
  db = good(openStore(join(folder, 'ash.sqlite'), migrationsIn('src/store/migrations')));
});
afterEach(() => {
  db.close();
  rmSync(folder, { recursive: true, force: true });
});

const row = (benchId: number, axis: 'x' | 'y' = 'x') => ({
  benchId,
  axis,
  name: 'a.csv',
  found: fromEchoes(41, 1),
  simulated: null,
  takenAt: AT,
});

test('what is kept of a shake comes out the same, the newest first, and can be put away', () => {
  const { bench } = furnish(db, AT);
  const first = shakes(db).add(row(bench));
  const second = shakes(db).add(row(bench, 'y'));
  expect(shakes(db).get(first)).toEqual({ id: first, ...row(bench) });
  expect(
    shakes(db)
      .ofBench(bench, 9)
      .map(({ id }) => id),
  ).toEqual([second, first]);
  archive(db).putAway('shake', second, AT);
  expect(
    shakes(db)
      .ofBench(bench, 9)
      .map(({ id }) => id),
  ).toEqual([first]);
  expect(archive(db).all(9)).toMatchObject([{ shelf: 'shake', id: second, name: 'y' }]);
  archive(db).restore('shake', second);
  expect(shakes(db).get(second)).not.toBeNull();
});

test('a run over the wire on a simulated machine is told until its record is kept, once', async () => {
  const { bench, machine } = furnish(db, AT);
  const file = await kept(db).keep(bench, 'heron-shake-x.gcode', Buffer.from('G28'), AT);
  const run = (simulated: string | null, state = 'finished') =>
    Number(
      db
        .prepare(
          `insert into job (machine_id, kept_id, name, state, lines, simulated, started_at, ended_at)
           values (?, ?, 'x', ?, 1, ?, ?, ?)`,
        )
        .run(machine, file, state, simulated, AT, AT).lastInsertRowid,
    );
  const job = run('{"name":"Calm day","seed":47}');
  run('{"name":"Calm day","seed":47}', 'stopped');
  run(null);
  // A kept file that shakes nothing is not asked for a record.
  expect(shakes(db).runs()).toEqual([]);
  shakes(db).markFile(file, 'x');
  expect(shakes(db).runs()).toMatchObject([{ job, keptId: file, axis: 'x' }]);
  const simulated = { name: 'Calm day', seed: 47 };
  shakes(db).add({ ...row(bench), simulated }, job);
  shakes(db).add({ ...row(bench), simulated }, job);
  expect(shakes(db).runs()).toEqual([]);
  expect(shakes(db).ofBench(bench, 9)).toHaveLength(1);
  // It is no file to make a ladder of.
  expect(kept(db).ofBench(bench)).toEqual([]);
});

test('values of one shake are taken back together', () => {
  const { bench } = furnish(db, AT);
  const shakeId = shakes(db).add(row(bench));
  const entry = {
    benchId: bench,
    low: null,
    high: null,
    base: {},
    ladderId: null,
    simulated: false,
    foundAt: AT,
  };
  const book = ledger(db);
  book.put({ ...entry, setting: 'jerk', value: 7 });
  const ids = (['shaper', 'shaperDamping', 'acceleration'] as const).map((setting) =>
    book.put({ ...entry, shakeId, setting, value: 40 }),
  );
  expect(book.takeBack(ids[0]!)).toBe(true);
  expect(book.current(bench).map(({ setting }) => setting)).toEqual(['jerk']);
});

test.each(['wren', 'newt'] as const)(
  '%s as it was set up before takes the rows of today',
  (name) => {
    const path = join(folder, 'older.sqlite');
    const all = migrationsIn('src/store/migrations');
    const older = good(openStore(path, all.slice(0, 14)));
    const { shaperX: _x, shaperY: _y, ...rows } = MACHINES[name].dialect;
    const dialect = { ...rows, shaper: BEFORE[name] };
    older
      .prepare('insert into machine (body) values (?)')
      .run(JSON.stringify({ ...MACHINES[name], dialect }));
    older.close();
    const now = good(openStore(path, all));
    expect(machines(now).get(1)!.body.dialect).toEqual(MACHINES[name].dialect);
    now.close();
  },
);
