/** The server under load, and with a large store: how long pages take, and whether memory comes back. */

import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { bin } from '../scripts/bootstrap.mjs';
import { row } from './measure';

export type Server = { address: string; child: ChildProcess; stop: () => Promise<void> };

/** Starts a server on a folder; resolves when it answers. */
export async function serve(script: string, data: string, port: number): Promise<Server> {
  const child = spawn('node', [script], {
    env: { ...process.env, ASH_KEY: 'off', ASH_DATA: data, PORT: String(port) },
    stdio: ['ignore', 'pipe', 'ignore'],
  });
  const address = await new Promise<string>((resolve, reject) => {
    child.stdout.on('data', (text) => {
      const found = /http:\S+/.exec(String(text));
      if (found) resolve(found[0]);
    });
    child.on('exit', () => reject(new Error('the server did not start')));
  });
  const stop = () =>
    new Promise<void>((resolve) => {
      child.on('exit', () => resolve());
      child.kill('SIGTERM');
    });
  return { address, child, stop };
}

/** Memory of a process and all that it has started, MB. */
export function memoryOf(pid: number): number {
  const parents = new Map<number, number>();
  for (const name of readdirSync('/proc')) {
    if (!/^\d+$/.test(name)) continue;
    try {
      const stat = readFileSync(`/proc/${name}/stat`, 'utf8');
      parents.set(Number(name), Number(stat.slice(stat.lastIndexOf(')') + 2).split(' ')[1]));
    } catch {
      // Gone meanwhile.
    }
  }
  const within = (one: number): boolean =>
    one === pid || (parents.has(one) && parents.get(one)! > 1 && within(parents.get(one)!));
  let kB = 0;
  for (const one of parents.keys()) {
    if (!within(one)) continue;
    try {
      kB += Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${one}/status`, 'utf8'))?.[1] ?? 0);
    } catch {
      // Gone meanwhile.
    }
  }
  return kB / 1024;
}

export async function ask(url: string): Promise<number> {
  const start = performance.now();
  const got = await fetch(url, { redirect: 'follow' });
  await got.arrayBuffer();
  if (!got.ok) throw new Error(`${url} answered ${got.status}`);
  return performance.now() - start;
}

export const share = (times: number[], at: number): number => {
  const sorted = [...times].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * at))]!;
};

/** Requests at an even pace, whether earlier ones were answered or not. */
export async function pace(address: string, pages: string[], perS: number, seconds: number) {
  const waiting: Promise<number | null>[] = [];
  const begin = performance.now();
  for (let n = 0; n < perS * seconds; n++) {
    const due = begin + (n * 1000) / perS;
    const early = due - performance.now();
    if (early > 0) await new Promise((resolve) => setTimeout(resolve, early));
    waiting.push(ask(address + pages[n % pages.length]!).catch(() => null));
  }
  const times = await Promise.all(waiting);
  return {
    times: times.filter((one) => one !== null),
    failed: times.filter((one) => one === null).length,
  };
}

async function underLoad(): Promise<void> {
  const data = mkdtempSync(join(tmpdir(), 'ash-load-'));
  const server = await serve('scripts/demo.mjs', data, 4796);
  try {
    const pages = ['/bench/1', '/ladder/1/finding', '/ladder/1/read'];
    for (const page of [...pages, ...pages, ...pages]) await ask(server.address + page);
    const before = memoryOf(server.child.pid!);
    const calm = await pace(server.address, pages, 20, 30);
    const p99 = share(calm.times, 0.99);
    row(
      '20 requests a second for 30 s',
      `median ${share(calm.times, 0.5).toFixed(0)} ms, p99 ${p99.toFixed(0)} ms (budget 100), ${calm.failed} failed`,
      p99 < 100 && calm.failed === 0,
    );
    const burst = await pace(server.address, pages, 60, 10);
    const next = await ask(`${server.address}/bench/1`);
    row(
      '60 a second for 10 s',
      `median ${share(burst.times, 0.5).toFixed(0)} ms, p99 ${share(burst.times, 0.99).toFixed(0)} ms, ${burst.failed} failed (budget 0)`,
      burst.failed === 0,
    );
    row('  the next page after it', `${next.toFixed(0)} ms (budget 300)`, next < 300);
    const high = memoryOf(server.child.pid!);
    await new Promise((resolve) => setTimeout(resolve, 55_000));
    const after = memoryOf(server.child.pid!);
    row(
      '  memory before, after, a minute on',
      `${before.toFixed(0)}, ${high.toFixed(0)}, ${after.toFixed(0)} MB (budget 1.3 × before)`,
      after <= 1.3 * before,
    );
  } finally {
    await server.stop();
    rmSync(data, { recursive: true, force: true });
  }
}

async function largeStore(): Promise<void> {
  const data = mkdtempSync(join(tmpdir(), 'ash-large-'));
  spawnSync(bin('tsx'), ['scripts/fill-large.ts', data], { stdio: 'inherit' });
  const server = await serve('scripts/start.mjs', data, 4797);
  try {
    for (const [name, page, pages] of [
      ['home', () => '/', 40],
      ['a bench', (n: number) => `/bench/${1 + n * 17}`, 40],
      ['a reading', (n: number) => `/ladder/${1 + n * 171}/read`, 40],
      ['a finding, seen again', (n: number) => `/ladder/${1 + (n % 4)}/finding`, 40],
      ['spools and machines', () => '/things', 20],
    ] as const) {
      for (let n = 0; n < 4; n++) await ask(server.address + page(n));
      const times: number[] = [];
      for (let n = 0; n < pages; n++) times.push(await ask(server.address + page(n)));
      const p95 = share(times, 0.95);
      row(
        `1,000 benches: ${name}`,
        `median ${share(times, 0.5).toFixed(0)} ms, p95 ${p95.toFixed(0)} ms (budget 100)`,
        p95 < 100,
      );
    }
    const body = await (await fetch(`${server.address}/things`)).arrayBuffer();
    row('  bytes of spools and machines', `${(body.byteLength / 1024).toFixed(0)} kB`);
  } finally {
    await server.stop();
    rmSync(data, { recursive: true, force: true });
  }
}

export async function load(): Promise<void> {
  await underLoad();
  await largeStore();
}

if (process.argv[1]?.endsWith('load.ts')) await load();
