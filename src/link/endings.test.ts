/** What a held machine comes to, and what is owed, whatever ends in the middle of something. */

import type { LinkState } from '../core/link-state';
import { benchFor, good } from '../core/testing';
import { Debts } from './debts';
import { Held } from './held';
import type { Records } from './records';
import { Acts } from './serve-acts';
import { FakeMachine, type Manner, type Trouble } from './testing/fake-machine';
import { book, held as hold, HURRY, runHeldCuts } from './testing/held-cut';
import { until } from './testing/on-wire';

const bench = benchFor('heron');
const FILE = `G28\nM83\n${'G1 X5 E0.1 F600\n'.repeat(400)}`;

const ends: (() => Promise<void>)[] = [];
afterEach(async () => {
  for (const end of ends.splice(0).reverse()) await end();
});

async function held(manner: Manner = {}, kept = book(FILE)) {
  const one = await hold(manner, kept);
  ends.push(one.end);
  return one;
}

const linked = (one: Held) => until(() => one.state.link === 'ready', 20_000);

test('a machine that is warm is written down before it is told to be', async () => {
  const { held: one, owed } = await held();
  good(await one.heatTo({ nozzle: 205, bed: 60 }));
  expect([...owed.values()]).toMatchObject([{ name: 'Heron', why: null }]);
  good(await one.heatTo({ nozzle: 0, bed: 0 }));
  await until(() => owed.size === 0 && one.state.owed === null, 20_000);
});

test.each<[Trouble]>([['closes'], ['resets'], ['restarts']])(
  'heaters are tuned and the link %s: tuning has failed, the machine is found, cooled and used again',
  async (kind) => {
    const { held: one, fake, owed } = await held({ trouble: { kind, at: 3, when: 'before' } });
    good(one.chores.tune({ bench, celsius: 205 }));
    await until(() => one.state.tuning?.state === 'failed', 20_000);
    await until(() => fake.done.includes('M104 S0'), 20_000);
    await linked(one);
    await until(() => owed.size === 0, 20_000);
    expect(fake.isHot).toBe(false);
    good(await one.heatTo({ nozzle: 0, bed: 0 }));
  },
  60_000,
);

test('who is disconnected while warm is cooled over the link that nobody sees any more', async () => {
  const { held: one, fake, owed, debts, partings } = await held();
  good(await one.heatTo({ nozzle: 205, bed: null }));
  good(one.disconnect());
  expect(one.state).toMatchObject({ link: 'off', address: null });
  expect(debts.due()).toMatchObject([{ why: 'it was disconnected' }]);
  await until(() => !fake.isHot && owed.size === 0, 20_000);
  await partings[0]!.over;
}, 40_000);

test('who is connected elsewhere leaves the first machine to be cooled', async () => {
  const first = await held();
  const other = await new FakeMachine().listen();
  ends.push(() => other.close());
  good(await first.held.heatTo({ nozzle: 205, bed: null }));
  good(await first.held.connect({ address: other.address, simulated: null, tools: 1 }));
  expect(first.held.state.link).toBe('ready');
  await until(() => !first.fake.isHot && first.owed.size === 0, 20_000);
}, 40_000);

test('a machine that never answers again stays owed until a person says that it is off', async () => {
  const { held: one, fake, debts, owed } = await held();
  good(await one.heatTo({ nozzle: 205, bed: null }));
  await fake.close();
  await until(() => one.state.link === 'looking', 20_000);
  expect(one.state.owed).toMatchObject({
    name: 'Heron',
    why: 'the link was lost',
    state: 'unheard',
  });
  debts.paid({ address: fake.address });
  expect(owed.size).toBe(0);
  expect(one.state.owed).toBeNull();
}, 40_000);

test('what was told over a link that is lost is told again over the next, and said to be unheard until then', async () => {
  const { held: one, fake, debts } = await held({ stuck: true });
  good(await one.heatTo({ nozzle: 205, bed: null }));
  await until(() => one.state.heat.nozzle?.now === 205, 20_000);
  one.idleAfter(0);
  await until(() => debts.due()[0]?.state === 'told', 20_000);
  fake.done.length = 0;
  fake.cut();
  await until(() => debts.due()[0]?.state === 'unheard', 20_000);
  await until(() => fake.done.includes('M104 S0') && debts.due()[0]?.state === 'told', 20_000);
}, 60_000);

test('what was owed when the program ended is paid first when the machine is found again', async () => {
  const kept = book(FILE);
  const before = await held({ stuck: true }, kept);
  good(await before.held.heatTo({ nozzle: 205, bed: null }));
  good(await before.held.say('M105'));
  await before.held.close();
  expect([...kept.owed.values()]).toMatchObject([{ why: 'Ash Ladder was ended' }]);
  const debts = new Debts(
    kept.records,
    () => undefined,
    () => '2026-11-29T15:00:00Z',
  );
  debts.begin();
  before.fake.done.length = 0;
  const after = new Held(7, {
    records: kept.records,
    debts,
    changed: () => undefined,
    hurry: HURRY,
    part: () => undefined,
  });
  ends.push(() => after.close());
  good(await after.connect({ address: before.fake.address, simulated: null, tools: 1 }));
  expect(before.fake.done.slice(0, 3)).toEqual(['M104 S0', 'M140 S0', 'M107']);
  // Its temperatures do not fall: it is still owed.
  expect(after.state.owed).toMatchObject({ state: 'told' });
}, 60_000);

test('no print begins between two steps of a tuning or a feeding, and none of them between two lines of a print', async () => {
  const { held: one, fake } = await held({ lateMs: 40 });
  good(one.chores.tune({ bench, celsius: 205 }));
  const print = { bench, file: 1, kept: null, name: 'a' };
  for (const refused of [
    await one.printing.print(print),
    await one.heatTo({ nozzle: 0, bed: 0 }),
    one.disconnect(),
    await one.connect({ address: fake.address, simulated: null, tools: 1 }),
  ])
    expect(refused).toMatchObject({
      problems: [{ what: 'The machine is at something that takes its time.' }],
    });
  await until(() => one.state.tuning?.state !== 'running', 20_000);
  fake.done.length = 0;
  good(await one.printing.print(print));
  expect(one.chores.tune({ bench, celsius: 205 })).toMatchObject({ ok: false });
  good(one.printing.steer('stop'));
  await until(() => one.state.job?.state === 'stopped', 20_000);
  expect(fake.done.filter((line) => !FILE.includes(line)).slice(0, 3)).toEqual([
    'M104 S0',
    'M140 S0',
    'M107',
  ]);
}, 60_000);

test('a feeding that is cut short leaves no machine that takes lengths as relative', async () => {
  const { held: one, fake } = await held({ trouble: { kind: 'closes', at: 4, when: 'after' } });
  good(await one.heatTo({ nozzle: 205, bed: null }));
  await until(() => one.state.heat.nozzle?.now === 205, 20_000);
  good(one.chores.feed({ mm: 100, speed: 5, coldest: 170 }));
  await until(() => one.state.feeding?.state === 'failed', 20_000);
  await linked(one);
  await until(() => fake.modes.endsWith('M82'), 20_000);
}, 40_000);

test('a print that is cut short for good ends once, hot, and is cooled when the machine is back', async () => {
  const {
    held: one,
    fake,
    saved,
    owed,
  } = await held({
    trouble: { kind: 'restarts', at: 9, when: 'after' },
  });
  good(await one.printing.print({ bench, file: 1, kept: null, name: 'a' }));
  await until(() => one.state.job?.state === 'failed', 20_000);
  expect(saved.filter((state) => state === 'failed').length).toBeGreaterThan(0);
  await linked(one);
  await until(() => owed.size === 0, 20_000);
  expect(fake.done.slice(-3)).not.toContain('G1 X5 E0.1 F600');
}, 60_000);

test('what stands in the place of everything ends all links first, cooled, and is refused while something is under way', async () => {
  const kept = book(FILE);
  const fake = await new FakeMachine().listen();
  ends.push(() => fake.close());
  const wires: object[] = [];
  const acts = new Acts({
    ...kept.records,
    keepWire: (machine: number, address: string) =>
      void wires.splice(0, 9, { machine, address, simulated: null, tools: 1, idleMin: 10 }),
    wires: () => wires,
    interrupted: () => [],
  } as unknown as Records);
  ends.push(() => acts.close());
  const at = { machine: 7, address: fake.address };
  good(await acts.do({ act: 'connect', ...at, simulated: null, tools: 1 }));
  const print = { act: 'print', machine: 7, bench, file: 1, kept: null, name: 'a' } as const;
  good(await acts.do(print));
  expect(await acts.do({ act: 'stand-aside' })).toMatchObject({
    problems: [{ what: expect.stringContaining('Something is printing') as string }],
  });
  good(await acts.do({ act: 'stop', machine: 7 }));
  const look = async () => good(await acts.do({ act: 'look', machine: 7 })) as LinkState;
  const is = async (so: (state: LinkState) => boolean) => {
    for (;;) {
      if (so(await look())) return;
      await new Promise((resolve) => setTimeout(resolve, 10));
    }
  };
  await is(({ job }) => job?.state === 'stopped');
  good(await acts.do({ act: 'heat', machine: 7, nozzle: 205, bed: null }));
  good(await acts.do({ act: 'stand-aside' }));
  expect(await look()).toMatchObject({ link: 'off', address: null });
  expect(await acts.do(print)).toMatchObject({
    problems: [{ what: 'Other data is being loaded.' }],
  });
  await until(() => !fake.isHot, 20_000);
  // Another machine may have its id by now: it is linked to only where the store says so.
  wires.length = 0;
  good(await acts.do({ act: 'come-back' }));
  expect(await look()).toMatchObject({ link: 'off' });
  good(await acts.do({ act: 'dismiss', address: fake.address }));
  expect(kept.owed.size).toBe(0);
}, 60_000);

long(
  'whatever happens in the middle of heating, tuning, feeding, reading, parting: it ends, cold or owed',
  async () => {
    const { runs, wrong } = await runHeldCuts(bench, 8, 13);
    expect(wrong).toEqual([]);
    expect(runs).toBeGreaterThan(30);
  },
  200_000,
);
