import { Lines } from '../core/gcode/lines';
import { good } from '../core/testing';
import { parseAddress } from './address';
import { coolDown } from './cool-down';
import { Job, type JobOptions } from './job';
import { Machine } from './machine';
import { FakeMachine, type Manner } from './testing/fake-machine';

const open: (() => Promise<void>)[] = [];
afterEach(async () => {
  for (const close of open.splice(0)) await close();
});

const FILE = ['M140 S60', 'M104 S200', 'G28', 'G90', 'M83', 'G1 Z0.2 F600'].concat(
  Array.from({ length: 20 }, (_, i) => `G1 X${i} E0.1`),
);

async function met(manner: Manner) {
  const fake = await new FakeMachine(manner).listen();
  open.push(() => fake.close());
  const found = await Machine.find(good(parseAddress(fake.address)), {
    patienceMs: 20,
    withinMs: 4000,
    everyMs: 100,
  });
  if (found.ok) open.push(() => found.value.close());
  return { fake, found };
}

async function printed(manner: Manner, options: Partial<JobOptions> = {}) {
  const { fake, found } = await met(manner);
  const machine = good(found);
  const job = new Job(machine, new Lines(new TextEncoder().encode(FILE.join('\n'))), {
    firmware: 'AB',
    stands: true,
    findEveryMs: 10,
    ...options,
  });
  const end = await job.run();
  // What says ok before it has done it is given the time.
  await new Promise((resolve) => setTimeout(resolve, manner.doesLaterMs ?? 0));
  return { fake, machine, end };
}

test.each<[string, Manner]>([
  ['counts', {}],
  ['counts nothing, and looks at no sums', { counts: false }],
  ['does not know numbers', { counts: false, numberless: true }],
  ['answers late', { lateMs: 40 }],
  ['echoes what it is told', { echoes: true }],
  ['counts nothing and echoes', { counts: false, echoes: true }],
  ['speaks of itself all the time', { speaksEveryMs: 5 }],
  ['counts nothing and speaks of itself', { counts: false, speaksEveryMs: 5 }],
  ['says odd things, a byte a packet', { odd: ['echo:', '// ok then', '[x] 12'], byteEveryMs: 1 }],
  ['never says how warm it is', { mute: true }],
  ['counts nothing and never says how warm it is', { counts: false, mute: true }],
  ['says that it is busy', { busy: true }],
  ['says ok before it has done it', { doesLaterMs: 30 }],
  ['is as slow as a port of 9600 baud', { byteEveryMs: 1.04 }],
])(
  'a machine that %s gets every line once and in order',
  async (_, manner) => {
    const { fake, end, machine } = await printed(manner);
    expect(end).toMatchObject({ state: 'finished', hot: false });
    expect(machine.wire.counts).toBe(manner.counts !== false);
    expect(fake.done.filter((line) => FILE.includes(line))).toEqual(FILE);
    expect(fake.isHot).toBe(false);
  },
  60_000,
);

test('who only echoes is no machine; who answers nothing that tells is not guessed at', async () => {
  const { createServer } = await import('node:net');
  const echo = createServer((socket) => socket.pipe(socket));
  await new Promise<void>((resolve) => echo.listen(0, '127.0.0.1', () => resolve()));
  const { port } = echo.address() as { port: number };
  const found = await Machine.find(
    { by: 'tcp', host: '127.0.0.1', port },
    { withinMs: 400, everyMs: 50 },
  );
  expect(found).toMatchObject({
    ok: false,
    problems: [{ what: expect.stringContaining('no machine answered') as string }],
  });
  await new Promise((resolve) => echo.close(resolve));
});

test('one that counts nothing and is lost is not gone on with: it is cooled over another connection', async () => {
  const trouble = { kind: 'closes', at: 12, when: 'before' } as const;
  const { fake, machine, end } = await printed({ counts: false, trouble });
  expect(end).toMatchObject({ state: 'failed', hot: true });
  expect(end.why).toContain('counts no lines');
  expect(await coolDown(machine, performance.now() + 8000, undefined, 10)).toBe('falls');
  expect(fake.isHot).toBe(false);
});

test('a heater that stays warm is never taken for one that cools', async () => {
  const { fake, found } = await met({ stuck: true });
  const machine = good(found);
  good(await machine.each(['M109 S200', 'M105']));
  expect(await coolDown(machine, performance.now() + 300, undefined, 10)).toBe('told');
  expect(fake.isHot).toBe(false);
});
