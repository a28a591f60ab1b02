/** Script that a page loads first, compressed, measured on the built app. */

import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { frameTimes } from './frames';
import { row } from './measure';

const KB = 1024;
const PAGES = [
  '/bench/1',
  '/bench/new',
  '/things',
  '/things/machine/1',
  '/ladder/1/design',
  '/ladder/1/print',
  '/ladder/1/read',
  '/ladder/1/finding',
  '/inspect?file=1',
  '/phones',
];

/** Starts the demo on a folder of its own and weighs the scripts that each page names. */
export async function pageWeights(): Promise<void> {
  const data = mkdtempSync(join(tmpdir(), 'ash-bench-'));
  const server = spawn('node', ['scripts/demo.mjs'], {
    env: { ...process.env, ASH_DATA: data, PORT: '4795' },
    stdio: ['ignore', 'pipe', 'ignore'],
  });
  try {
    const address = await new Promise<string>((resolve, reject) => {
      server.stdout.on('data', (text) => {
        const found = /http:\S+/.exec(String(text));
        if (found) resolve(found[0]);
      });
      server.on('exit', () => reject(new Error('the demo did not start')));
    });
    const weights = new Map<string, number>();
    for (const page of PAGES) {
      const html = await (await fetch(address + page)).text();
      const scripts = new Set(
        [...html.matchAll(/src="(\/_next\/[^"]+\.js[^"]*)"/g)].map(([, src]) => src!),
      );
      let total = 0;
      for (const src of scripts) {
        if (!weights.has(src)) {
          const body = Buffer.from(await (await fetch(address + src)).arrayBuffer());
          weights.set(src, gzipSync(body).length);
        }
        total += weights.get(src)!;
      }
      row(
        `first script of ${page}`,
        `${(total / KB).toFixed(0)} kB (budget 250)`,
        total <= 250 * KB,
      );
    }
    await frameTimes(address);
  } finally {
    server.kill('SIGTERM');
    rmSync(data, { recursive: true, force: true });
  }
}
