import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { ashIn } from './testing/ash';

const folder = mkdtempSync(join(tmpdir(), 'ash-link-'));
const machines: ChildProcess[] = [];
afterAll(() => {
  for (const machine of machines) machine.kill();
  rmSync(folder, { recursive: true, force: true });
});

const ash = ashIn(folder);

/** A simulated machine in a process of its own. @returns its address */
function machine(...more: string[]): Promise<string> {
  const args = [resolve('dist/understudy.js'), '--seed', '7', ...more];
  const child = spawn(process.execPath, args);
  machines.push(child);
  return new Promise((found) =>
    child.stdout.on('data', (text) => {
      const at = /at (\S+:\d+)/.exec(String(text));
      if (at) found(`tcp:${at[1]}`);
    }),
  );
}

type Reported = { settings: { setting: string; inForce: number; stored: number | null }[] };
const settingsOf = (to: string) => {
  const { stdout } = ash('settings', '--to', to, '--json');
  const { settings } = JSON.parse(stdout) as Reported;
  return Object.fromEntries(settings.map(({ setting, ...has }) => [setting, has]));
};

beforeAll(() => {
  for (const name of ['heron', 'wren'])
    writeFileSync(join(folder, `${name}.json`), ash('bench', '--preset', name).stdout);
}, 60_000);

test('settings are read, put in force, stored; an offset is added to what is there', async () => {
  const to = await machine();
  const put = (...args: string[]) => ash('put', ...args, '--bench', 'heron.json', '--to', to);
  expect(settingsOf(to)).toMatchObject({ advance: { inForce: 0, stored: 0 } });
  expect(put('advance', '0.08', '--store')).toMatchObject({ status: 0, stderr: '' });
  expect(put('advance', '0.12').stdout).toContain('0.08 before');
  expect(put('zOffset', '-0.05', '--store').status).toBe(0);
  expect(put('zOffset', '0.02').stdout).toContain('-0.03 mm is in force');
  expect(settingsOf(to)).toMatchObject({
    advance: { inForce: 0.12, stored: 0.12 },
    zOffset: { inForce: -0.03, stored: -0.05 },
  });
}, 60_000);

test('what cannot be put is refused: a word, a wrong setting, a machine that stores in a file', async () => {
  const to = await machine('--machine', 'wren');
  const put = (...args: string[]) => ash('put', ...args, '--bench', 'wren.json', '--to', to);
  expect(put('advance', 'much')).toMatchObject({ status: 2, stdout: '' });
  expect(put('zOffset', '-3').status).toBe(2);
  expect(put('nozzle', '200').stderr).toContain('no setting “nozzle”');
  const kept = put('advance', '0.04', '--store');
  expect(kept.status).toBe(1);
  expect(kept.stderr).toContain('pressure_advance: 0.04');
  expect(ash('settings', '--to', 'heron')).toMatchObject({ status: 2, stdout: '' });
  expect(ash('settings', '--to', 'tcp:127.0.0.1:9').status).toBe(1);
}, 60_000);

type Told = { ok: boolean; sure: number; why: string };

test('a file is sent and comes to its end; one that stops says which line is the last sure one', async () => {
  const move = 'G1 X5 E0.1 F3000\nG1 X9 E0.1\n';
  writeFileSync(join(folder, 'a.gcode'), `M109 S200\nG28\nM83\n${move.repeat(200)}`);
  const count = readFileSync(join(folder, 'a.gcode'), 'utf8').trimEnd().split('\n').length;
  const send = (to: string) =>
    ash('send', 'a.gcode', '--bench', 'heron.json', '--to', to, '--json');
  const done = send(await machine('--speed', '500'));
  expect(done.status).toBe(0);
  const last = (stdout: string) => JSON.parse(stdout.trimEnd().split('\n').at(-1)!) as Told;
  expect(last(done.stdout)).toMatchObject({ ok: true, state: 'done', of: count, sure: count });
  const cold = send(await machine('--speed', '500', '--broken-heater'));
  expect(cold.status).toBe(1);
  const told = last(cold.stdout);
  // It has stopped by itself, and nobody has seen that it cools.
  expect(told).toMatchObject({ ok: false, state: 'failed', hot: true });
  expect(told.sure).toBeLessThan(count);
  expect(cold.stderr).toContain('The last sure line is');
}, 60_000);
