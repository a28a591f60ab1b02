/**
 * `npm run soak -- --hours 1`: everything at once for a long time: prints over the wire on two simulated machines, scores
 * from two devices, pictures, findings, shakes, exports, while the server and the link are killed again and again. It
 * fails where an act is lost, a job is left between states, memory or open files grow, or the store is not sound.
 */

import Database from 'better-sqlite3';
import { execFileSync } from 'node:child_process';
import { createHash, randomUUID } from 'node:crypto';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { seeded } from '../src/core/random';
import { askOnce } from '../src/link/ask';
import type { LinkState } from '../src/core/link-state';
import { COOKIE } from '../src/lan/lan';
import { isOver } from '../src/core/job-states';
import { benches } from '../src/store/benches';
import { bytesPath, folderOf, namedIn } from '../src/store/bytes';
import { devices } from '../src/store/devices';
import type { Db } from '../src/store/open';
import { memoryOf } from '../benchmarks/load';
import { ownServer } from '../tests/e2e/own-server';
import { LAN, numberAsked } from './phone-parts';
import { socketFor } from '../src/serve/socket-path';

const PORT = 4793;
const seconds = process.argv.join(' ').includes('--seconds')
  ? numberAsked('seconds', 60)
  : numberAsked('hours', 1) * 3600;
const LONG = seconds >= 1800;
/** How often the server and the link are killed, s, and how often it is looked at what they take. */
const [SERVER_S, LINK_S, LOOK_S] = LONG ? [120, 180, 15] : [9, 13, 2];
/** Memory and open files may differ so much between the first while and the last. */
const FLAT = 1.1;
/** Simulated machines run so many times as fast as real ones. */
const SPEED = 40;

const random = seeded(31);
const goesOn = () => Date.now() < until;
const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const say = (text: string) => process.stdout.write(`${text}\n`);

const server = await ownServer('demo', PORT, { args: ['--lan', LAN], speed: SPEED });
// From when it answers.
const until = Date.now() + 1000 * seconds;
const path = join(server.data, 'ash.sqlite');
const socket = socketFor(server.data);
const db: Db = new Database(path);
db.pragma('busy_timeout = 5000');
const token = randomUUID();
devices(db).letIn(
  'Soak phone',
  'Mara',
  createHash('sha256').update(token).digest('hex'),
  new Date().toISOString(),
);
const phone = server.address.replace('127.0.0.1', LAN);
const done: Record<string, number> = {};
const count = (what: string, by = 1) => (done[what] = (done[what] ?? 0) + by);

/** Asks until it is answered, as a page does: what was refused is an error, what was lost is sent again. */
async function ask(url: string, init: RequestInit = {}, from = server.address): Promise<Response> {
  for (;;) {
    try {
      const got = await fetch(from + url, {
        ...init,
        headers: { ...init.headers, ...(from === phone ? { cookie: `${COOKIE}=${token}` } : {}) },
        signal: AbortSignal.timeout(60_000),
      });
      if (got.status < 500 && got.status !== 429) return got;
    } catch {
      // The server is gone for a moment.
    }
    count('asked again');
    await sleep(300 + 500 * random());
  }
}

/** Names of acts that were acknowledged. */
const acknowledged: string[] = [];

async function scores(from: string, name: string): Promise<void> {
  const one = db.prepare(
    `select reading.id from reading join print on print.id = print_id join file on file.id = file_id
       join ladder on ladder.id = ladder_id
      where reading.deleted_at is null and kind = 'temperature' order by random() limit 1`,
  );
  for (let n = 0; goesOn(); n++) {
    const reading = one.pluck().get() as number;
    const acts = Array.from({ length: 1 + Math.floor(4 * random()) }, (_, i) => ({
      id: `soak.${name}.${n}.${i}`,
      rung: Math.floor(3 * random()),
      criterion: 'stringing',
      score: Math.floor(5 * random()),
    }));
    const body = JSON.stringify({ acts });
    const got = await ask(
      `/readings/${reading}`,
      { method: 'POST', body, headers: { 'content-type': 'application/json' } },
      from,
    );
    // A reading without that criterion takes none of them.
    if (got.ok) acknowledged.push(...acts.map(({ id }) => id));
    count(got.ok ? 'taps' : 'taps refused', acts.length);
    await sleep(200 * random());
  }
}

async function pictures(): Promise<void> {
  const photo = await sharp({
    create: { width: 2400, height: 1800, channels: 3, background: '#7a8' },
  })
    .jpeg()
    .toBuffer();
  for (let n = 0; goesOn(); n++) {
    const act = `soak.picture.${n}`;
    const got = await ask(
      `/prints/1/photos?act=${act}`,
      {
        method: 'POST',
        body: new Uint8Array(photo),
        headers: { 'content-type': 'application/octet-stream' },
      },
      phone,
    );
    if (got.ok) count('pictures');
    await sleep(LONG ? 20_000 * random() : 2000 * random());
  }
}

async function pages(): Promise<void> {
  const all = [
    '/',
    '/bench/1',
    '/bench/2',
    '/ladder/1/finding',
    '/ladder/2/finding',
    '/ladder/1/read',
    '/bench/2/shake?axis=x',
    '/things',
    '/archive',
  ];
  while (goesOn()) {
    const got = await ask(all[Math.floor(all.length * random())]!);
    await got.arrayBuffer().catch(() => undefined);
    count('pages and findings');
    await sleep(300 * random());
  }
}

async function exports(): Promise<void> {
  while (goesOn()) {
    await sleep(LONG ? 60_000 : 6000);
    const got = await ask('/everything');
    const whole = await got.arrayBuffer().then(
      () => true,
      () => false,
    );
    count(whole ? 'exports' : 'exports cut by a kill');
  }
}

type StandIn = { machine: string; address: string; name: string; seed: number };
/** Where the simulated machines of the demo are, as the server was told when it was started. */
function standIns(): StandIn[] {
  const environ = readFileSync(`/proc/${pidOf(SERVER)}/environ`, 'utf8').split('\0');
  const said = environ.find((one) => one.startsWith('ASH_UNDERSTUDIES='));
  return JSON.parse(said!.slice(said!.indexOf('=') + 1)) as StandIn[];
}

/** Prints one file after the other on a machine of its own. */
async function prints(benchId: number): Promise<void> {
  const { bench, machineId } = benches(db).get(benchId)!;
  const stands = standIns().find(({ machine }) => machine === bench.machine.name);
  if (!stands) throw new Error(`nothing stands in for ${bench.machine.name}`);
  const file = db.prepare(
    `select file.id, name from file join ladder on ladder.id = ladder_id where bench_id = ? limit 1`,
  );
  const made = file.get(benchId) as { id: number; name: string } | undefined;
  if (!made) throw new Error(`bench ${benchId} has no file`);
  const asks = <T>(act: Parameters<typeof askOnce>[1]) => askOnce<T>(socket, act).catch(() => null);
  while (goesOn()) {
    const state = await asks<LinkState>({ act: 'look', machine: machineId });
    if (!state?.ok) {
      await sleep(500);
      continue;
    }
    const { link, job } = state.value;
    if (link === 'off')
      await asks({
        act: 'connect',
        machine: machineId,
        address: stands.address,
        simulated: { name: stands.name, seed: stands.seed },
        tools: 1,
      });
    else if (link === 'ready' && (!job || isOver(job.state))) {
      const begun = await asks({
        act: 'print',
        machine: machineId,
        bench,
        file: made.id,
        kept: null,
        name: made.name,
      });
      if (begun?.ok) count('prints begun');
    }
    await sleep(1000);
  }
  // What still prints is stopped, and cold.
  await asks({ act: 'stop', machine: machineId });
  for (let tries = 0; tries < 60; tries++) {
    const state = await asks<LinkState>({ act: 'look', machine: machineId });
    if (state?.ok && (!state.value.job || isOver(state.value.job.state))) break;
    await sleep(1000);
  }
}

const pidOf = (what: string): number | null => {
  try {
    return Number(execFileSync('pgrep', ['-f', '-o', what], { encoding: 'utf8' }).trim());
  } catch {
    return null;
  }
};
const SERVER = `dist/server.js ${PORT}`;
const LINK = `dist/link.js ${path}`;

async function kills(what: string, name: string, everyS: number): Promise<void> {
  while (goesOn()) {
    await sleep(1000 * everyS);
    if (!goesOn()) return;
    const pid = pidOf(what);
    if (pid === null) continue;
    process.kill(pid, 'SIGKILL');
    count(`kills of ${name}`);
  }
}

type Sample = { at: number; mb: number; files: number };
const samples: Sample[] = [];
async function watch(): Promise<void> {
  const begun = Date.now();
  while (goesOn()) {
    await sleep(1000 * LOOK_S);
    const [own, link] = [pidOf(SERVER), pidOf(LINK)];
    if (own === null || link === null) continue;
    try {
      const files = [own, link].reduce(
        (sum, pid) => sum + readdirSync(`/proc/${pid}/fd`).length,
        0,
      );
      samples.push({ at: Date.now() - begun, mb: memoryOf(own) + memoryOf(link), files });
    } catch {
      // Killed just now.
    }
  }
}

await Promise.all([
  scores(server.address, 'computer'),
  scores(phone, 'phone'),
  pictures(),
  pages(),
  exports(),
  prints(1),
  prints(2),
  kills(SERVER, 'the server', SERVER_S),
  kills(LINK, 'the link', LINK_S),
  watch(),
]);
// What ended is kept as a print by whoever serves now.
const unkeptNow = db
  .prepare(
    `select count(*) from job where state = 'finished' and print_id is null and file_id is not null`,
  )
  .pluck();
for (let tries = 0; tries < 90 && (unkeptNow.get() as number) > 0; tries++) {
  await ask('/');
  await sleep(1000);
}
await server.halt();

const faults: string[] = [];
const must = (so: boolean, what: string) => so || faults.push(what);
const middle = (of: readonly number[]) =>
  [...of].sort((a, b) => a - b)[Math.floor(of.length / 2)] ?? 0;
const first = samples.filter(
  ({ at }) => at > (LONG ? 600_000 : 0) && at < (LONG ? 1_200_000 : (1000 * seconds) / 2),
);
const last = samples.filter(
  ({ at }) => at > 1000 * seconds - (LONG ? 600_000 : (1000 * seconds) / 2),
);
for (const [name, of] of [
  ['memory, MB', ({ mb }: Sample) => mb],
  ['open files', ({ files }: Sample) => files],
] as const) {
  const [then, now] = [middle(first.map(of)), middle(last.map(of))];
  say(`${name}: ${then.toFixed(0)} in the first while, ${now.toFixed(0)} in the last`);
  // A minute says nothing of growth.
  if (LONG) must(now <= FLAT * then, `${name} grew from ${then.toFixed(0)} to ${now.toFixed(0)}`);
}
const uids = new Set(
  db.prepare(`select uid from score_act where uid like 'soak.%'`).pluck().all() as string[],
);
const lost = acknowledged.filter((id) => !uids.has(id));
must(lost.length === 0, `${lost.length} acts are lost: ${lost.slice(0, 5).join(', ')}`);
must(db.pragma('integrity_check', { simple: true }) === 'ok', 'the database is damaged');
must((db.pragma('foreign_key_check') as unknown[]).length === 0, 'rows point to nothing');
const folder = folderOf(path);
const missing = [...namedIn(db)].filter((sha) => !existsSync(bytesPath(folder, sha)));
must(missing.length === 0, `${missing.length} pictures or files that rows name are missing`);
const between = db
  .prepare(
    `select count(*) from job where ended_at is null or state in ('printing', 'pausing', 'paused', 'stopping', 'lost')`,
  )
  .pluck()
  .get() as number;
must(between === 0, `${between} jobs stand between states`);
const unkept = unkeptNow.get() as number;
must(unkept === 0, `${unkept} jobs came to their end and stand as no print`);
done['prints finished'] = db
  .prepare(`select count(*) from job where state = 'finished'`)
  .pluck()
  .get() as number;
db.close();
await server.stop();
say(
  Object.entries(done)
    .map(([what, times]) => `${times} ${what}`)
    .join(', '),
);
for (const one of faults) say(`FAULT: ${one}`);
say(faults.length === 0 ? 'Nothing was lost.' : `${faults.length} faults.`);
process.exit(faults.length === 0 ? 0 : 1);
