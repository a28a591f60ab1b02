import { benchFor, good } from '../core/testing';
import { coolDown } from './cool-down';
import { closeAll, onWire, until } from './testing/on-wire';

afterEach(closeAll);

const bench = benchFor('heron');
/** Ten slow moves, some warmth first. */
const FILE = [
  '; made for tests',
  'M140 S60',
  'M104 S200 ; warm',
  'G28',
  'M83',
  ...Array.from({ length: 40 }, (_, i) => `G1 X${i} Y5 E0.1 F${1200 + i}`),
].join('\n');
const COMMANDS = FILE.split('\n')
  .slice(1)
  .map((line) => line.replace(/ ;.*/, ''));

test('a file is printed line by line, and nothing stays hot', async () => {
  const on = await onWire(bench, { speed: 2000 });
  const end = await on.job(FILE).run();
  expect(end).toMatchObject({ state: 'finished', lines: 45, sure: 45 });
  expect(on.told()).toEqual([...COMMANDS, 'M400', 'M104 S0', 'M140 S0', 'M107']);
});

test('a pause draws back and lifts, and going on puts everything back as the file had it', async () => {
  const on = await onWire(bench, { speed: 20 });
  const states: string[] = [];
  const job = on.job(FILE, { changed: ({ state }) => states.push(state) });
  const end = job.run();
  await until(() => on.told().length > 12);
  job.pause();
  await until(() => job.state === 'paused');
  const paused = on.told().slice(-6);
  expect(paused).toEqual(['M400', 'G91', 'M83', 'G1 E-2 F1800', 'G1 Z5 F600', 'G90']);
  expect(job.progress.keepsHeatS).toBeGreaterThan(800);
  const before = on.told().length;
  job.go();
  expect(await end).toMatchObject({ state: 'finished' });
  const last = [...on.told()]
    .slice(0, before)
    .filter((line) => /^G1 X/.test(line))
    .at(-1)!;
  const feed = /F(\d+)/.exec(last)![1];
  expect(on.told().slice(before, before + 7)).toEqual([
    'G91',
    'M83',
    'G1 Z-5 F600',
    'G1 E2 F1800',
    'G90',
    'M83',
    `G1 F${feed}`,
  ]);
  expect(on.told().filter((line) => /^G1 X/.test(line))).toEqual(
    COMMANDS.filter((line) => /^G1 X/.test(line)),
  );
  expect([...new Set(states)]).toEqual(['printing', 'pausing', 'paused', 'finished']);
});

test('heat is let go when a pause lasts, and comes back before it goes on', async () => {
  const on = await onWire(bench, { speed: 200 });
  const long = `M104 S200\nM140 S60\nM83\n${'G1 X5 F600\nG1 X0\n'.repeat(2000)}`;
  const job = on.job(long, { keepHeatS: 0.05 });
  const end = job.run();
  await until(() => on.told().length > 30);
  job.pause();
  await until(() => /let go/.test(job.why ?? ''));
  expect(on.told().slice(-3)).toEqual(['M104 S0', 'M140 S0', 'M107']);
  job.go();
  await until(() => on.told().includes('M109 S200'));
  expect(on.told()).toContain('M190 S60');
  job.stop();
  expect((await end).state).toBe('stopped');
}, 20_000);

test('a stop switches heaters and fan off and lifts, even while the machine waits for heat', async () => {
  const on = await onWire(bench, { speed: 1 });
  const job = on.job('M109 S200\nG28\nG1 X5 F600\n');
  const end = job.run();
  await until(() => job.progress.line >= 1);
  await new Promise((resolve) => setTimeout(resolve, 50));
  job.stop();
  expect(await end).toMatchObject({ state: 'stopped' });
  expect(on.told().slice(-6)).toEqual(['M104 S0', 'M140 S0', 'M107', 'G91', 'G1 Z10 F600', 'G90']);
  expect(on.told()).not.toContain('G1 X5 F600');
});

test('where the file waits for a person, it stands until somebody goes on', async () => {
  const on = await onWire(bench, { speed: 2000 });
  const job = on.job('G28\nM0 mark the filament\nG1 X5 F600\n');
  const end = job.run();
  await until(() => job.state === 'paused');
  expect(job.why).toBe('The file waits for you: mark the filament');
  expect(on.told()).not.toContain('G1 X5 F600');
  job.go();
  expect((await end).state).toBe('finished');
  expect(on.told()).toContain('G1 X5 F600');
});

test('after the link was cut the machine is asked what it has; no line is sent twice, none left out', async () => {
  const on = await onWire(bench, { speed: 20 }, { cutAfter: 25 });
  const job = on.job(FILE);
  const end = job.run();
  await until(() => /is back/.test(job.why ?? ''), 15_000);
  expect(job.state).toBe('paused');
  job.go();
  expect(await end).toMatchObject({ state: 'finished' });
  expect(on.told().filter((line) => /^G1 X/.test(line))).toEqual(
    COMMANDS.filter((line) => /^G1 X/.test(line)),
  );
}, 30_000);

test('a machine that restarted meanwhile ends the print, and says so', async () => {
  const on = await onWire(bench, { speed: 20 });
  const job = on.job(FILE);
  const end = job.run();
  await until(() => on.told().length > 12);
  on.wire.cut(true);
  on.firmware.powerCycle();
  on.wire.mend();
  expect(await end).toMatchObject({ state: 'failed' });
  expect(job.why).toMatch(/restarted since/);
}, 30_000);

test('a greeting while it prints means that it restarted', async () => {
  const on = await onWire(bench, { speed: 20 });
  const job = on.job(FILE);
  const end = job.run();
  await until(() => on.told().length > 12);
  on.firmware.powerCycle();
  expect(await end).toMatchObject({ state: 'failed' });
  expect(job.why).toMatch(/has restarted/);
  expect(job.progress.hot).toBe(true);
  // Numbering is begun again, so that it can be told to stay cool.
  expect(await coolDown(on.machine, performance.now() + 10_000, undefined, 20)).toBe('falls');
  expect(on.told().slice(-3)).toEqual(['M104 S0', 'M140 S0', 'M107']);
}, 30_000);

test('the emergency stop goes ahead of everything', async () => {
  const on = await onWire(bench, { speed: 1 });
  const job = on.job(`G28\n${'G1 X5 F60\nG1 X0 F60\n'.repeat(20)}`);
  const end = job.run();
  await until(() => job.progress.line >= 1);
  job.emergency();
  expect(await end).toMatchObject({ state: 'failed' });
  await new Promise((resolve) => setTimeout(resolve, 50));
  const before = on.told().length;
  on.firmware.receive('G1 X9');
  expect(on.told().length).toBe(before);
});

test('a heater that does not heat ends the print with the machine’s own words', async () => {
  const on = await onWire(bench, { speed: 100, heater: true });
  const end = await on.job('M109 S200\nG28\n').run();
  expect(end).toMatchObject({ state: 'failed' });
  expect(end.why).toMatch(/heating failed/);
}, 20_000);

test('what the machine refuses ends the print: it is not gone on with cold', async () => {
  const on = await onWire(bench, { speed: 200 });
  const end = await on.job(`M109 S300\nG28\n${'G1 X5 F600\nG1 X0\n'.repeat(500)}`).run();
  expect(end).toMatchObject({ state: 'failed' });
  expect(end.why).toMatch(/refused something near line 1: 300 is over the 260/);
  expect(on.told().slice(-6)).toEqual(['M104 S0', 'M140 S0', 'M107', 'G91', 'G1 Z10 F600', 'G90']);
}, 20_000);

test('a print is nudged between two lines, and what was nudged is taken back at its end', async () => {
  const on = await onWire(bench, { speed: 20 });
  const job = on.job(FILE, { nudgeLine: (mm) => `M290 Z${mm}` });
  const end = job.run();
  await until(() => on.told().length > 12);
  const [first, second] = await Promise.all([job.nudge(-0.05), job.nudge(-0.02)]);
  expect(good(first)).toMatchObject({ mm: -0.05, total: -0.05, y: 5 });
  const { line, x, total } = good(second);
  expect(total).toBeCloseTo(-0.07);
  expect(FILE.split('\n')[line - 1]).toContain(`G1 X${x} `);
  expect(await end).toMatchObject({ state: 'finished', why: null });
  const told = on.told();
  expect(told.filter((one) => /^M290/.test(one))).toEqual([
    'M290 Z-0.05',
    'M290 Z-0.02',
    'M290 Z0.07',
  ]);
  // The line that was given last before it is the one that it names.
  const at = told.indexOf('M290 Z-0.05');
  expect(
    told
      .slice(0, at)
      .filter((one) => /^G1 X/.test(one))
      .at(-1),
  ).toContain(`G1 X${good(first).x} `);
  expect(told.filter((one) => /^G1 X/.test(one))).toEqual(
    COMMANDS.filter((one) => /^G1 X/.test(one)),
  );
});

test('a nudge that the machine does not take is said, and the print goes on', async () => {
  const on = await onWire(bench, { speed: 20 });
  const job = on.job(FILE, { nudgeLine: () => 'M2901 Z0.02' });
  const end = job.run();
  await until(() => on.told().length > 12);
  expect(await job.nudge(0.02)).toMatchObject({
    ok: false,
    problems: [{ what: expect.stringContaining('does not take M2901') as string }],
  });
  expect(await end).toMatchObject({ state: 'finished' });
  const none = on.job(FILE, { nudgeLine: () => null });
  expect(await none.nudge(0.02)).toMatchObject({ ok: false });
});

test('a print that is stopped takes its nudges back too', async () => {
  const on = await onWire(bench, { speed: 20 });
  const job = on.job(FILE, { nudgeLine: (mm) => `M290 Z${mm}` });
  const end = job.run();
  await until(() => on.told().length > 12);
  good(await job.nudge(0.05));
  job.stop();
  expect((await end).state).toBe('stopped');
  expect(on.told().slice(-4)).toEqual(['M290 Z-0.05', 'G91', 'G1 Z10 F600', 'G90']);
});

test('what has restarted has forgotten its nudges: nothing is taken back, and none stands', async () => {
  const on = await onWire(bench, { speed: 20 });
  const job = on.job(FILE, { nudgeLine: (mm) => `M290 Z${mm}` });
  const end = job.run();
  await until(() => on.told().length > 12);
  good(await job.nudge(-0.02));
  expect(job.progress.nudged).toBeCloseTo(-0.02);
  on.firmware.powerCycle();
  expect(await end).toMatchObject({ state: 'failed', nudged: 0 });
  expect(on.told()).not.toContain('M290 Z0.02');
});
