/**
 * `npm run bench -- large`: a store of ten years. Pages one at a time and at 20 a second, the start of the server, a
 * backup beside pages, and everything out and in again.
 */

import { spawnSync } from 'node:child_process';
import {
  createReadStream,
  createWriteStream,
  existsSync,
  mkdtempSync,
  rmSync,
  statSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { bin } from '../scripts/bootstrap.mjs';
import { ask, memoryOf, pace, serve, share, type Server } from './load';
import { row } from './measure';
import { hourOfPrinting } from './written';

const [PICTURES, JOBS] = [10_000, 5_000];
const PORT = 4798;

/** Pages, each over many things, so that nothing is seen twice but where that is asked for. */
const PAGES: [name: string, page: (n: number) => string, count: number][] = [
  ['home', () => '/', 40],
  ['a bench', (n) => `/bench/${1 + n * 17}`, 40],
  ['score', (n) => `/ladder/${1 + n * 171}/read`, 40],
  ['a finding, first', (n) => `/ladder/${3 + n * 171}/finding`, 30],
  ['a finding, again', (n) => `/ladder/${3 + (n % 30) * 171}/finding`, 40],
  ['print', (n) => `/ladder/${2 + n * 171}/print`, 40],
  ['archive', () => '/archive', 30],
  ['spools and machines', () => '/things', 30],
  ['phones', () => '/phones', 30],
  ['inspect', () => '/inspect', 30],
];

async function pages({ address }: Server): Promise<void> {
  for (const [name, page, count] of PAGES) {
    // What a first visit compiles is not what is measured.
    for (let n = 0; n < 3; n++) await ask(address + page(50 + n));
    const times: number[] = [];
    for (let n = 0; n < count; n++) times.push(await ask(address + page(n)));
    const p95 = share(times, 0.95);
    row(
      name,
      `median ${share(times, 0.5).toFixed(0)} ms, p95 ${p95.toFixed(0)} ms (budget 100)`,
      p95 < 100,
    );
  }
  const body = await (await fetch(`${address}/inspect`)).arrayBuffer();
  row('  bytes of inspect', `${(body.byteLength / 1024).toFixed(0)} kB`);
}

async function underLoad({ address }: Server): Promise<void> {
  // Findings that were seen before: how long a first one takes stands above.
  const mix = Array.from({ length: 200 }, (_, n) => {
    const [, page] = PAGES[[0, 1, 2, 4][n % 4]!]!;
    return page(n % 50);
  });
  for (const page of mix) await ask(address + page);
  const { times, failed } = await pace(address, mix, 20, 30);
  const [median, p99] = [share(times, 0.5), share(times, 0.99)];
  row(
    'home, bench, score, finding, 20 a second',
    `median ${median.toFixed(0)} ms, p99 ${p99.toFixed(0)} ms (budget 150), ${failed} failed`,
    p99 < 150 && failed === 0,
  );
  const more = await pace(address, mix, 60, 15);
  const [half, late] = [share(more.times, 0.5), share(more.times, 0.99)];
  row(
    '  60 a second',
    `median ${half.toFixed(0)} ms, p99 ${late.toFixed(0)} ms (budget 5 × the median), ${more.failed} failed`,
    late <= 5 * half && more.failed === 0,
  );
}

/** A page after the other while something else goes on. @returns the slowest, ms */
async function slowestDuring(address: string, work: Promise<unknown>): Promise<number> {
  let over = false;
  const ended = work.finally(() => (over = true));
  let slowest = 0;
  for (let n = 0; !over; n++) {
    slowest = Math.max(slowest, await ask(`${address}/bench/${1 + (n % 900)}`));
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  await ended;
  return slowest;
}

/** Highest memory of a server while something goes on, MB. */
async function peakDuring<T>(server: Server, work: Promise<T>): Promise<[T, number]> {
  let peak = 0;
  const timer = setInterval(() => (peak = Math.max(peak, memoryOf(server.child.pid!))), 250);
  try {
    return [await work, peak];
  } finally {
    clearInterval(timer);
  }
}

hourOfPrinting();
const data = mkdtempSync(join(tmpdir(), 'ash-ten-years-'));
const began = performance.now();
spawnSync(bin('tsx'), ['scripts/fill-large.ts', data, String(PICTURES), String(JOBS)], {
  stdio: 'inherit',
});
row('filling it', `${((performance.now() - began) / 60_000).toFixed(1)} min`);
let server: Server | null = null;
try {
  const start = performance.now();
  server = await serve('scripts/start.mjs', data, PORT);
  const seconds = (performance.now() - start) / 1000;
  row('start of the server', `${seconds.toFixed(1)} s (budget 3)`, seconds < 3);
  // The copy of the day is made at the start, beside the first pages.
  const day = new Date().toISOString().slice(0, 10);
  const copied = (async () => {
    while (!existsSync(join(data, 'backups', `ash-${day}.sqlite`)))
      await new Promise((resolve) => setTimeout(resolve, 100));
  })();
  const slowest = await slowestDuring(server.address, copied);
  row('the slowest page beside a backup', `${slowest.toFixed(0)} ms (budget 300)`, slowest < 300);
  await pages(server);
  await underLoad(server);

  const { address } = server;
  const file = join(data, 'out.ash');
  const calm = memoryOf(server.child.pid!);
  const outBegan = performance.now();
  const [, outPeak] = await peakDuring(
    server,
    fetch(`${address}/everything`).then((got) =>
      pipeline(Readable.fromWeb(got.body as never), createWriteStream(file)),
    ),
  );
  const gigabytes = statSync(file).size / 1e9;
  row(
    'everything out',
    `${gigabytes.toFixed(1)} GB in ${((performance.now() - outBegan) / 60_000).toFixed(1)} min, ${(outPeak - calm).toFixed(0)} MB more in use (budget 150)`,
    outPeak - calm < 150,
  );
  const inBegan = performance.now();
  const posted = fetch(`${address}/everything`, {
    method: 'POST',
    body: Readable.toWeb(createReadStream(file)) as never,
    duplex: 'half',
    headers: { 'content-length': String(statSync(file).size) },
    signal: AbortSignal.timeout(3_600_000),
  } as RequestInit).then(async (got) => {
    if (!got.ok) throw new Error(await got.text());
  });
  let slowestIn = 0;
  const [, inPeak] = await peakDuring(
    server,
    slowestDuring(address, posted).then((ms) => (slowestIn = ms)),
  );
  row(
    'everything in',
    `${((performance.now() - inBegan) / 60_000).toFixed(1)} min, ${(inPeak - calm).toFixed(0)} MB more in use (budget 150), slowest page meanwhile ${slowestIn.toFixed(0)} ms`,
    inPeak - calm < 150,
  );
} finally {
  await server?.stop();
  rmSync(data, { recursive: true, force: true });
}
