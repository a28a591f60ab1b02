import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FakeMachine, type Manner } from '../link/testing/fake-machine';
import { benchFor } from '../core/testing';
import { ASH } from './testing/ash';

const folder = mkdtempSync(join(tmpdir(), 'ash-send-'));
const open: FakeMachine[] = [];
afterEach(async () => {
  for (const fake of open.splice(0)) await fake.close();
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));
writeFileSync(join(folder, 'b.json'), JSON.stringify(benchFor('heron')));
const MOVES = 400;
const FILE = ['M140 S60', 'M104 S205', 'G28', 'G90', 'M82', 'G1 Z0.2'].concat(
  Array.from({ length: MOVES }, (_, i) => `G1 X${i % 100} Y${i % 90} E${i}`),
);
writeFileSync(join(folder, 'a.gcode'), `${FILE.join('\n')}\n`);

type Told = { state: string; line: number; of: number; why?: string; hot?: true; ok?: boolean };

/** Sends the file. @param press what is pressed once a state is told, or once so many lines are done */
async function send(
  manner: Manner,
  press: (told: Told, keys: (text: string) => void, kill: () => void) => void = () => undefined,
) {
  const fake = await new FakeMachine({ lateMs: 2, ...manner }).listen();
  open.push(fake);
  const args = ['send', 'a.gcode', '--bench', 'b.json', '--to', fake.address, '--json'];
  const child = spawn(process.execPath, [ASH, ...args], { cwd: folder });
  let [out, talk] = ['', ''];
  const all: Told[] = [];
  child.stdout.setEncoding('utf8').on('data', (text: string) => {
    const lines = (out + text).split('\n');
    out = lines.pop()!;
    for (const line of lines) {
      const told = JSON.parse(line) as Told;
      all.push(told);
      press(
        told,
        (keys) => void child.stdin.write(keys),
        () => void child.kill('SIGINT'),
      );
    }
  });
  child.stderr.setEncoding('utf8').on('data', (text: string) => (talk += text));
  const code = await new Promise<number | null>((done) => child.once('close', done));
  return { fake, all, states: all.map(({ state }) => state), last: all.at(-1)!, talk, code };
}

test('a file is sent to its end, each change of state is a line', async () => {
  const { fake, states, last, code, talk } = await send({});
  expect(states).toEqual(['printing', 'done']);
  expect(last).toMatchObject({ state: 'done', line: FILE.length, of: FILE.length, ok: true });
  expect(last.hot).toBeUndefined();
  expect(code).toBe(0);
  expect(talk).toContain('printing: line');
  expect(fake.isHot).toBe(false);
}, 60_000);

test('letters pause it and let it go on', async () => {
  let pressed = false;
  const { fake, states, code } = await send({}, ({ state }, keys) => {
    if (state === 'printing' && !pressed) setTimeout(() => keys('p\n'), 100);
    if (state === 'paused') keys('g\n');
    pressed = true;
  });
  expect(states).toEqual(['printing', 'pausing', 'paused', 'printing', 'done']);
  expect(code).toBe(0);
  for (const { line, z } of fake.moves) if (FILE.includes(line)) expect(z).toBeCloseTo(0.2, 9);
}, 60_000);

test('a letter stops it, and it ends cold', async () => {
  const { fake, states, last, code } = await send({}, ({ state }, keys) => {
    if (state === 'printing') setTimeout(() => keys('s\n'), 100);
  });
  expect(states).toEqual(['printing', 'stopping', 'stopped']);
  expect(last.hot).toBeUndefined();
  expect(code).toBe(1);
  expect(fake.isHot).toBe(false);
}, 60_000);

test('the first interrupt stops and cools; a second one gives up and says that it may be hot', async () => {
  const first = await send({}, ({ state }, _, kill) => {
    if (state === 'printing') setTimeout(kill, 100);
  });
  expect(first).toMatchObject({ code: 1, last: { state: 'stopped' } });
  expect(first.fake.isHot).toBe(false);
  const second = await send({ lateMs: 150 }, ({ state }, _, kill) => {
    if (state === 'printing') setTimeout(kill, 100);
    if (state === 'stopping') kill();
  });
  expect(second).toMatchObject({
    code: 3,
    last: { hot: true, why: 'It was given up from the keyboard.' },
  });
  expect(second.talk).toContain('may be hot');
}, 120_000);

test('a machine that counts no lines is printed on one line at a time', async () => {
  const { fake, last, code } = await send({ counts: false });
  expect(last.state).toBe('done');
  expect(code).toBe(0);
  expect(fake.done.filter((line) => FILE.includes(line))).toEqual(FILE);
}, 60_000);

test('a connection that is cut is looked for: the print is stopped, and the machine cooled over another', async () => {
  const trouble = { kind: 'closes', at: 60, when: 'before' } as const;
  const { fake, states, last, code } = await send({ trouble });
  expect(states).toEqual(['printing', 'lost', 'stopping', 'failed']);
  expect(last.hot).toBeUndefined();
  expect(code).toBe(1);
  expect(fake.isHot).toBe(false);
}, 90_000);
