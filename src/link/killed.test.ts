import type { ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FILAMENTS, MACHINES } from '../core/bench/presets';
import { seeded } from '../core/random';
import { benchFor, good, makeTemperature } from '../core/testing';
import type { LinkState } from '../core/link-state';
import type { Act } from './protocol';
import { askOnce } from './ask';
import { startLink } from './testing/process';
import { benches } from '../store/benches';
import { files, ladders } from '../store/ladders';
import { migrationsIn, openStore } from '../store/open';
import { filaments, machines } from '../store/things';
import { Firmware } from '../understudy/firmware';
import { drawTruths } from '../understudy/truths';
import { serveWire } from '../understudy/wire';

/** How often the link is killed; more where that is asked for. */
const KILLS = Number(process.env.ASH_KILLS ?? 4);
const LONGEST_RUN_MS = 700;

const folder = mkdtempSync(join(tmpdir(), 'ash-link-'));
const [path, socket] = [join(folder, 'ash.sqlite'), join(folder, 'link.sock')];
let link: ChildProcess | null = null;
afterAll(() => {
  link?.kill('SIGKILL');
  rmSync(folder, { recursive: true });
});

const start = async () => {
  link = await startLink(path, socket);
};
const ask = <T>(act: Act) => askOnce<T>(socket, act);

const ended = (child: ChildProcess) => new Promise((resolve) => child.once('exit', resolve));

async function until(so: () => boolean | Promise<boolean>, withinMs = 20_000): Promise<void> {
  const end = performance.now() + withinMs;
  while (!(await so())) {
    if (performance.now() > end) throw new Error('it was not so in time');
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
}

test(`a link killed ${KILLS} times in the middle of a print: interrupted, cooled, nothing twice, nothing left out`, async () => {
  const bench = benchFor('heron');
  const made = makeTemperature();
  const db = good(openStore(path, migrationsIn('src/store/migrations')));
  const machine = machines(db).add(MACHINES.heron);
  const benchId = benches(db).join(machine, 0.4, filaments(db).add(FILAMENTS.moss), '');
  const ladder = ladders(db).add({
    benchId,
    kind: 'temperature',
    spec: {},
    weights: {},
    createdAt: '',
  });
  const file = files(db).keep(ladder, made.text, made.plan, '');
  const moves = made.text
    .split('\n')
    .flatMap((line) => /^G[01] [^;]*/.exec(line)?.[0].trim() ?? []);

  const executed: string[] = [];
  const firmware = new Firmware(bench, drawTruths(bench, 7), { executed, speed: 400 });
  const wire = await serveWire(firmware);
  const random = seeded(50);
  await start();
  // Nobody else may open it.
  expect(statSync(socket).mode & 0o077).toBe(0);
  const address = `tcp:127.0.0.1:${wire.port}`;
  good(await ask({ act: 'connect', machine, address, simulated: null, tools: 1 }));
  for (let kill = 1; kill <= KILLS; kill++) {
    executed.length = 0;
    const job = good(
      await ask<number>({ act: 'print', machine, bench, file, kept: null, name: 'a.gcode' }),
    );
    await until(() => executed.some((line) => line.startsWith('G1')));
    await new Promise((resolve) => setTimeout(resolve, random() * LONGEST_RUN_MS));
    link!.kill('SIGKILL');
    await ended(link!);
    // What it had taken is still done.
    await new Promise((resolve) => setTimeout(resolve, 50));
    const printed = executed.splice(0).filter((line) => /^G[01]\b/.test(line));
    await start();
    const row = db.prepare('select state, sure, why from job where id = ?').get(job) as {
      state: string;
      sure: number;
      why: string;
    };
    expect(row).toMatchObject({ state: 'interrupted' });
    expect(row.why).toContain(`line ${row.sure} is the last sure one`);
    await until(async () => {
      const state = await ask<LinkState>({ act: 'look', machine });
      return state.ok && state.value.link === 'ready';
    });
    await until(() => executed.includes('G1 Z10 F600'));
    // What it took before is the beginning of the file; after it only what cools and lifts.
    expect(printed).toEqual(moves.slice(0, printed.length));
    const after = executed.filter((line) => /^(?:G[01]|M104|M140)\b/.test(line));
    expect(after).toEqual(['M104 S0', 'M140 S0', 'G1 Z10 F600']);
    const state = good(await ask<LinkState>({ act: 'look', machine }));
    expect(state.job).toBeNull();
  }
  link!.kill('SIGTERM');
  await ended(link!);
  await wire.close();
  db.close();
}, 600_000);
