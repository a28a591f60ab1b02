import { benchFor, good } from '../core/testing';
import type { Simulated } from '../core/link-state';
import { Held } from './held';
import { Debts } from './debts';
import { Parting } from './parting';
import type { Owing, Records } from './records';
import { closeAll, onWire, until } from './testing/on-wire';

const bench = benchFor('heron');
const FILE = `M83\nG28\n${'G1 X5 Y5 E0.1 F600\nG1 X0 Y0 E0.1\n'.repeat(400)}`;

/** Records that keep nothing but what was said last. */
function forgetful(file = FILE) {
  const saved: { state: string; endedAt: string | null }[] = [];
  const nudged: number[] = [];
  const began: { had: string | null }[] = [];
  const owed: Owing[] = [];
  const records = {
    idle: () => null,
    nameOf: () => 'Heron',
    owed: () => [],
    owe: (row: Owing) => owed.push(row),
    paid: () => undefined,
    begin: (job: { had: string | null }) => began.push(job),
    nudge: (_: number, { mm }: { mm: number }) => nudged.push(mm) > 0,
    bytes: () => new TextEncoder().encode(file),
    save: (_: number, { state }: { state: string }, __: unknown, endedAt: string | null) => {
      saved.push({ state, endedAt });
      return true;
    },
  } as unknown as Records;
  return { records, saved, nudged, began, owed };
}

let held: Held | null = null;
const partings: Parting[] = [];
afterEach(async () => {
  await held?.close();
  held = null;
  for (const parting of partings.splice(0)) await parting.end();
  await closeAll();
});

async function linked(speed = 200, file = FILE, simulated: Simulated | null = null) {
  const on = await onWire(bench, { speed });
  await on.machine.close();
  const { records, ...kept } = forgetful(file);
  let told = 0;
  const debts = new Debts(
    records,
    () => undefined,
    () => '2026-11-29T14:02:00Z',
  );
  held = new Held(7, {
    records,
    debts,
    changed: () => told++,
    part: (debt, machine) => partings.push(new Parting(debt, machine, debts)),
  });
  const address = `tcp:127.0.0.1:${on.wire.port}`;
  good(await held.connect({ address, simulated, tools: 1 }));
  return { on, held, debts, partings, address, ...kept, told: () => told };
}

test('a machine is linked, says what it is, and talks; temperatures are folded', async () => {
  const { held, told } = await linked();
  expect(held.state).toMatchObject({ machine: 7, link: 'ready', why: null, job: null });
  expect(held.state.about).toContain('understudy');
  good(await held.say('M115'));
  for (let i = 0; i < 3; i++) good(await held.say('M105'));
  const { talk } = held.state;
  expect(talk.map(({ text }) => text)).toContain('M115');
  expect(talk.filter(({ heat }) => heat).length).toBeLessThan(4);
  expect(await held.say('  ')).toMatchObject({ ok: false });
  await until(() => told() > 0);
});

test('what stands idle and hot is switched off, and it is said', async () => {
  const { held, on } = await linked();
  good(await held.heatTo({ nozzle: 200, bed: 60 }));
  await until(() => held.state.coolsInS !== null);
  expect(held.state.heat.nozzle!.target).toBe(200);
  held.idleAfter(1 / 600);
  await until(() => on.told().includes('M104 S0'), 8000);
  await until(() => /Nobody has touched it/.test(held.state.why ?? ''));
  await until(() => held.state.coolsInS === null);
}, 20_000);

test('while something prints, only questions go through, and nothing else is begun', async () => {
  const { held, on, saved } = await linked(40);
  good(await held.printing.print({ bench, file: 1, kept: null, name: 'a.gcode' }));
  await until(() => held.state.job?.state === 'printing' && on.told().length > 5);
  expect(held.state.link).toBe('busy');
  expect(await held.say('G28')).toMatchObject({ ok: false });
  good(await held.say('M114'));
  const refused = [
    await held.printing.print({ bench, file: 1, kept: null, name: 'b.gcode' }),
    await held.settings({ bench, stored: false }),
    held.disconnect(),
    await held.heatTo({ nozzle: 250, bed: null }),
    held.chores.tune({ bench, celsius: 200 }),
  ];
  for (const one of refused) expect(one).toMatchObject({ ok: false });
  good(held.printing.steer('stop'));
  await until(() => held.state.job?.state === 'stopped');
  await until(() => saved.at(-1)?.endedAt !== null);
  expect(saved.at(-1)!.state).toBe('stopped');
  expect(held.printing.steer('pause')).toMatchObject({ ok: false });
  good(held.disconnect());
  expect(held.state).toMatchObject({ link: 'off', address: null });
}, 20_000);

test('heat on the way is kept with the print', async () => {
  const { held } = await linked(60, `M104 S200\n${FILE}`);
  good(await held.printing.print({ bench, file: 1, kept: null, name: 'a.gcode' }));
  await until(() => held.printing.heatRows.length > 0, 8000);
  expect(held.printing.heatRows[0]![2]).toBe(200);
  good(held.printing.steer('stop'));
  await until(() => held.state.job?.state === 'stopped');
}, 20_000);

test('the emergency stop ends the link too; a machine that is gone is looked for', async () => {
  const { held, on } = await linked();
  on.wire.cut(true);
  await until(() => held.state.link === 'looking');
  expect(held.state.why).toMatch(/link was lost/);
  on.wire.mend();
  await until(() => held.state.link === 'ready', 15_000);
  good(held.emergency());
  await until(() => held.state.link === 'off');
  expect(held.state.why).toMatch(/emergency stop/);
  expect(held.emergency()).toMatchObject({ ok: false });
  expect(await held.say('G28')).toMatchObject({ ok: false });
}, 30_000);

test('the machine tunes its heater: what it had and what it found are told, then it is put in force', async () => {
  const { held } = await linked(3000);
  expect(await held.chores.applyTuning({ bench })).toMatchObject({ ok: false });
  good(held.chores.tune({ bench, celsius: 205 }));
  expect(held.chores.tune({ bench, celsius: 205 })).toMatchObject({ ok: false });
  await until(() => held.state.tuning?.state === 'found');
  expect(held.state.tuning!.before).toEqual({ p: 22.2, i: 1.08, d: 114 });
  good(await held.chores.applyTuning({ bench }));
  expect(held.state.tuning!.state).toBe('applied');
}, 20_000);

test('a first layer is nudged down to its floor, each nudge is kept; other prints are not', async () => {
  const { held, nudged } = await linked(40);
  expect(await held.printing.nudge(0.02)).toMatchObject({ ok: false });
  good(
    await held.printing.print({
      bench,
      file: 1,
      kept: null,
      name: 'a',
      floors: [{ line: 9, least: -0.06 }],
    }),
  );
  expect(await held.printing.nudge(-0.02)).toMatchObject({
    problems: [{ what: 'Its patches have not begun yet.' }],
  });
  await until(() => (held.state.job?.line ?? 0) > 12);
  good(await held.printing.nudge(-0.05));
  const low = await held.printing.nudge(-0.02);
  expect(low).toMatchObject({
    problems: [{ what: expect.stringContaining('-0.06 mm is as low') as string }],
  });
  good(await held.printing.nudge(0.02));
  expect(held.state.job!.nudges.map(({ mm }) => mm)).toEqual([-0.05, 0.02]);
  expect(nudged).toEqual([-0.05, 0.02]);
  held.printing.steer('pause');
  await until(() => held.state.job?.state === 'paused');
  expect(await held.printing.nudge(0.02)).toMatchObject({ ok: false });
  held.printing.steer('stop');
  await until(() => held.state.job?.state === 'stopped');
  good(await held.printing.print({ bench, file: 1, kept: null, name: 'b' }));
  expect(await held.printing.nudge(0.02)).toMatchObject({
    problems: [{ what: 'This print is no first-layer ladder.' }],
  });
  held.printing.steer('stop');
  await until(() => held.state.job?.state === 'stopped');
}, 20_000);

test('a simulated machine prints with the offset that it has stored', async () => {
  const { held, began } = await linked(2000, 'G28', { name: 'Calm day', seed: 47 });
  good(await held.apply({ bench, setting: 'zOffset', value: -0.04 }));
  good(await held.printing.print({ bench, file: 1, kept: null, name: 'a' }));
  expect(JSON.parse(began.at(-1)!.had!)).toMatchObject({ zOffset: -0.04, steps: 400 });
  await until(() => held.state.job?.state === 'finished');
});

test('filament is fed slowly through a hot nozzle only, and each length is counted', async () => {
  const { held, on } = await linked(500);
  expect(held.chores.feed({ mm: 100, speed: 2, coldest: 170 })).toMatchObject({
    problems: [{ what: 'The nozzle is not told to be hot enough to melt filament.' }],
  });
  good(await held.heatTo({ nozzle: 210, bed: null }));
  await until(() => (held.state.heat.nozzle?.now ?? 0) > 207, 15_000);
  good(held.chores.feed({ mm: 100, speed: 2, coldest: 170 }));
  expect(held.chores.feed({ mm: 100, speed: 2, coldest: 170 })).toMatchObject({ ok: false });
  await until(() => held.state.feeding?.state === 'done');
  expect(held.state.feeding).toMatchObject({ mm: 100, n: 1, why: null });
  expect(on.told().slice(-6)).toEqual([
    'M83',
    'G1 E33.333 F120',
    'G1 E33.333 F120',
    'G1 E33.334 F120',
    'M400',
    'M82',
  ]);
  good(held.chores.feed({ mm: 100, speed: 2, coldest: 170 }));
  await until(() => held.state.feeding?.n === 2 && held.state.feeding.state === 'done');
}, 30_000);

test('a simulated machine that was stopped is restarted when it is connected again', async () => {
  const { held, on } = await linked();
  const address = `tcp:127.0.0.1:${on.wire.port}`;
  good(held.emergency());
  await until(() => held.state.link === 'off');
  expect(held.state.why).toContain('Switch the machine off and on');
  good(await held.connect({ address, simulated: { name: 'Calm day', seed: 47 }, tools: 1 }));
  expect(held.state.link).toBe('ready');
}, 30_000);
