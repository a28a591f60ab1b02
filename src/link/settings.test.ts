import { benchFor, good } from '../core/testing';
import { Machine } from './machine';
import { applySetting, fileLine, readSettings, storeSettings } from './settings';
import { closeAll, onWire, until } from './testing/on-wire';

afterEach(closeAll);

const MACHINES = ['heron', 'wren', 'otter', 'newt'] as const;

test.each(MACHINES)('%s: read, put in force, read back', async (name) => {
  const bench = benchFor(name);
  const on = await onWire(bench);
  const first = good(await readSettings(on.machine, null, false));
  expect(first.settings.map(({ setting }) => setting)).toEqual(
    expect.arrayContaining(['advance', 'acceleration']),
  );
  const done = good(await applySetting(on.machine, 'advance', 0.0625, bench));
  expect(done.before).toBe(0);
  expect(done.seen.value).toBeCloseTo(0.0625, 3);
  const again = good(await readSettings(on.machine, bench.machine.dialect, false));
  expect(again.settings.find(({ setting }) => setting === 'advance')!.value).toBeCloseTo(0.0625, 3);
});

test('what is stored is told apart from what is in force, and reading it changes nothing', async () => {
  const bench = benchFor('heron');
  const on = await onWire(bench);
  good(await applySetting(on.machine, 'advance', 0.1, bench));
  good(await storeSettings(on.machine, bench));
  good(await applySetting(on.machine, 'advance', 0.2, bench));
  good(await applySetting(on.machine, 'jerk', 6, bench));
  const both = good(await readSettings(on.machine, null, true));
  const of = (list: typeof both.settings, setting: string) =>
    list.find((one) => one.setting === setting)!.value;
  expect([of(both.settings, 'advance'), of(both.stored!, 'advance')]).toEqual([0.2, 0.1]);
  expect([of(both.settings, 'jerk'), of(both.stored!, 'jerk')]).toEqual([6, 8]);
  expect(both.notes).toEqual([]);
  const after = good(await readSettings(on.machine, null, false));
  expect(of(after.settings, 'advance')).toBe(0.2);
  expect(of(after.settings, 'jerk')).toBe(6);
  on.firmware.powerCycle();
});

test('a stored value lives through switching off, one in force does not', async () => {
  const bench = benchFor('otter');
  const on = await onWire(bench);
  good(await applySetting(on.machine, 'advance', 0.1, bench));
  const kept = good(await storeSettings(on.machine, bench));
  expect(kept.find(({ setting }) => setting === 'advance')!.value).toBeCloseTo(0.1);
  good(await applySetting(on.machine, 'acceleration', 750, bench));
  on.firmware.powerCycle();
  await until(() => on.machine.wire.over?.why === 'restarted');
  const again = good(await Machine.find(on.machine.address));
  const after = good(await readSettings(again, bench.machine.dialect, false)).settings;
  await again.close();
  const of = (setting: string) => after.find((one) => one.setting === setting)!.value;
  expect(of('advance')).toBeCloseTo(0.1);
  expect(of('acceleration')).toBe(bench.machine.limits.printAcceleration);
});

test('where settings stand in a file, the line for it is given and nothing is claimed', async () => {
  const bench = benchFor('wren');
  const on = await onWire(bench);
  const stored = await storeSettings(on.machine, bench);
  expect(stored).toMatchObject({ ok: false });
  expect(fileLine('advance', 0.05, bench)).toBe('pressure_advance: 0.05');
  expect(fileLine('advance', 0.05, benchFor('newt'))).toBe('M572 D0 S0.05');
  const read = good(await readSettings(on.machine, null, true));
  expect(read.stored).toBeNull();
  expect(read.notes).toHaveLength(1);
});

test('a command that the machine does not take is never said to be in force', async () => {
  const bench = benchFor('heron');
  const wrong = {
    ...bench,
    machine: {
      ...bench.machine,
      dialect: { ...bench.machine.dialect, advance: 'M572 D0 S{advance}' },
    },
  };
  const on = await onWire(bench);
  const done = await applySetting(on.machine, 'advance', 0.05, wrong);
  expect(done).toMatchObject({ ok: false, problems: [{ where: 'machine' }] });
});

test('a first-layer offset is put into the machine, kept there, and nudges come on top of it', async () => {
  const bench = benchFor('heron');
  const on = await onWire(bench);
  const done = good(await applySetting(on.machine, 'zOffset', -0.06, bench));
  expect(done).toMatchObject({ before: 0, seen: { value: -0.06 } });
  expect(on.told()).toContain('M851 Z-0.06');
  const kept = good(await storeSettings(on.machine, bench));
  expect(kept.find(({ setting }) => setting === 'zOffset')!.value).toBe(-0.06);
  good(await on.machine.ask('M290 Z0.02'));
  const now = good(await readSettings(on.machine, null, true));
  const of = (list: typeof kept) => list.find(({ setting }) => setting === 'zOffset')!.value;
  expect([of(now.settings), of(now.stored!)]).toEqual([-0.04, -0.06]);
  // Machines that keep it in a file are told nothing.
  const wren = benchFor('wren');
  const other = await onWire(wren);
  expect(await applySetting(other.machine, 'zOffset', 0.1, wren)).toMatchObject({ ok: false });
});

test.each([
  ['wren', { shaperX: 46, shaperTypeX: 3, shaperDampingX: 0.06 }],
  ['newt', { shaper: 38, shaperType: 2, shaperDamping: 0.08 }],
] as const)(
  '%s: a shaper is put in force whole by any of its settings, or part by part',
  async (name, ledger) => {
    const bench = { ...benchFor(name), tuned: ledger };
    const on = await onWire(bench);
    const [[frequency, hz], [, kind]] = Object.entries(ledger) as [
      ['shaper', number],
      ['shaper', number],
    ];
    good(await applySetting(on.machine, frequency, hz, bench));
    const has = async () =>
      Object.fromEntries(
        good(await readSettings(on.machine, bench.machine.dialect, false)).settings.map(
          ({ setting, value }) => [setting, value],
        ),
      );
    expect(await has()).toMatchObject(ledger);
    // Nobody's ledger: what is not said stays as the machine has it.
    const none = { ...bench, tuned: {} };
    good(await applySetting(on.machine, frequency, 50, none));
    expect(await has()).toMatchObject({ ...ledger, [frequency]: 50 });
    expect(kind).toBeGreaterThan(0);
  },
);
