import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Lines } from '../core/gcode/lines';
import { benchFor, good } from '../core/testing';
import { Job } from './job';
import { Machine } from './machine';
import { applySetting } from './settings';
import { listPorts } from './transport';
import { closeAll, onWire, until } from './testing/on-wire';

const bench = benchFor('heron');
const folder = mkdtempSync(join(tmpdir(), 'ash-serial-'));
let cable: ChildProcess | null = null;

/** A pseudo-terminal that leads to a simulated machine: a cable whose other end is a socket. */
async function plugIn(port: number): Promise<string> {
  const path = join(folder, `tty${port}`);
  cable = spawn('socat', [`pty,raw,echo=0,link=${path}`, `tcp:127.0.0.1:${port},nodelay`], {
    stdio: 'ignore',
  });
  await until(() => existsSync(path));
  return path;
}

afterEach(async () => {
  cable?.kill();
  cable = null;
  await closeAll();
});
afterAll(() => rmSync(folder, { recursive: true }));

test('a machine is found on a serial port, its speed by asking; it is set and prints', async () => {
  const on = await onWire(bench, { speed: 2000 });
  await on.machine.close();
  const path = await plugIn(on.wire.port);
  const machine = good(await Machine.find({ by: 'serial', path }));
  expect(machine.address).toEqual({ by: 'serial', path, speed: 115_200 });
  expect(machine.about).toContain('understudy');
  good(await applySetting(machine, 'advance', 0.06, bench));
  const moves = Array.from({ length: 300 }, (_, i) => `G1 X${i % 50} Y5 E0.1 F3000`);
  const lines = new Lines(new TextEncoder().encode(moves.join('\n')));
  const end = await new Job(machine, lines, { firmware: 'AB' }).run();
  expect(end).toMatchObject({ state: 'finished', sure: 300 });
  expect(on.told().filter((line) => line.startsWith('G1 X'))).toEqual(moves);
  await machine.close();
}, 30_000);

test('a cable that is pulled ends with words; so does a port that is none', async () => {
  const on = await onWire(bench, { speed: 1 });
  await on.machine.close();
  const path = await plugIn(on.wire.port);
  const machine = good(await Machine.find({ by: 'serial', path, speed: 250_000 }));
  cable!.kill();
  // A terminal that has gone is noticed when something is said to it.
  await until(() => {
    void machine.wire.send('M105');
    return machine.wire.over !== null;
  });
  expect(machine.wire.over).toMatchObject({ why: 'lost' });
  await machine.close();
  const nothing = await Machine.find({ by: 'serial', path: join(folder, 'none') });
  expect(nothing).toMatchObject({ ok: false });
  if (!nothing.ok) expect(nothing.problems[0]!.what).toContain('there is no such port');
}, 30_000);

test('ports are listed by the device folder alone, with what they are where it says so', () => {
  const dev = join(folder, 'dev');
  mkdirSync(join(dev, 'serial/by-id'), { recursive: true });
  for (const name of ['ttyUSB10', 'ttyUSB2', 'ttyACM0', 'tty1', 'null'])
    writeFileSync(join(dev, name), '');
  symlinkSync('../../ttyACM0', join(dev, 'serial/by-id/usb-Some_board_1234-if00'));
  symlinkSync('../../gone', join(dev, 'serial/by-id/usb-Gone-if00'));
  expect(listPorts(dev)).toEqual([
    { path: join(dev, 'ttyACM0'), about: 'Some_board_1234' },
    { path: join(dev, 'ttyUSB2'), about: '' },
    { path: join(dev, 'ttyUSB10'), about: '' },
  ]);
  expect(listPorts(join(folder, 'nowhere'))).toEqual([]);
});
