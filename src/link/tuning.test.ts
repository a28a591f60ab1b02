import { benchFor, good } from '../core/testing';
import { applyGains, presentGains, tuneHeater } from './tuning';
import { closeAll, onWire } from './testing/on-wire';

afterEach(closeAll);

test('the heater is tuned by the machine itself, and what it found is put in force and read back', async () => {
  const bench = benchFor('heron');
  const { dialect } = bench.machine;
  const on = await onWire(bench, { speed: 2000 });
  const before = good(await presentGains(on.machine, dialect));
  expect(before).toEqual({ p: 22.2, i: 1.08, d: 114 });
  const found = good(await tuneHeater(on.machine, 205, dialect));
  expect(found).not.toEqual(before);
  expect(on.told().slice(-4)).toEqual(['M303 E0 S205 C8', 'M104 S0', 'M140 S0', 'M107']);
  expect(good(await presentGains(on.machine, dialect))).toEqual(before);
  expect(good(await applyGains(on.machine, found, dialect))).toEqual(found);
}, 20_000);

test('a machine that keeps them in its file is told so, and nothing is claimed', async () => {
  const bench = benchFor('wren');
  const on = await onWire(bench, { speed: 2000 });
  const found = good(await tuneHeater(on.machine, 240, bench.machine.dialect));
  expect(await applyGains(on.machine, found, bench.machine.dialect)).toMatchObject({ ok: false });
}, 20_000);
