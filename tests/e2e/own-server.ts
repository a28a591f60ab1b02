/** A server of its own for tests that need other data than all share, or that may harm it. */

import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

export type OwnServer = {
  address: string;
  data: string;
  /** Sets how fast its simulated machines live from now on, and how fast they heat and home: 0 holds them. */
  pace: (speed: number, readies?: number) => void;
  /** Ends it; what it kept stays until `stop`. */
  halt: () => Promise<void>;
  stop: () => Promise<void>;
};

const FILL = 'dist/fill-demo.js';
const KEPT = 'node_modules/.cache/ash-ladder';

/** The demo's data, filled once for the sources as they are, and once a day: it says how long ago things were. */
export function demoData(): string {
  const hash = createHash('sha256').update(readFileSync(FILL)).digest('hex').slice(0, 16);
  const folder = join(KEPT, `demo-${new Date().toISOString().slice(0, 10)}-${hash}`);
  if (existsSync(folder)) return folder;
  mkdirSync(KEPT, { recursive: true });
  const made = mkdtempSync(join(KEPT, 'filling-'));
  const { status } = spawnSync(process.execPath, [FILL, made], { stdio: 'inherit' });
  if (status !== 0) throw new Error('the demo could not be filled');
  // Another worker may have been faster: both are the same.
  if (existsSync(folder)) rmSync(made, { recursive: true });
  else renameSync(made, folder);
  return folder;
}

/**
 * Starts `demo` (filled) or `start` (empty) on a folder of its own; simulated machines run `speed` times as fast as
 * real ones, until another pace is set.
 */
export async function ownServer(
  script: 'demo' | 'start',
  port: number,
  {
    args = [],
    speed,
    env = {},
  }: { args?: string[]; speed?: number; env?: Record<string, string> } = {},
): Promise<OwnServer> {
  const data = mkdtempSync(join(tmpdir(), 'ash-own-'));
  if (script === 'demo') cpSync(demoData(), data, { recursive: true });
  const pace = (times: number, readies = times) => {
    // Read at any moment: never half written.
    writeFileSync(join(data, 'pace.new'), `${times} ${readies}`);
    renameSync(join(data, 'pace.new'), join(data, 'pace'));
  };
  if (speed) pace(speed);
  const child = spawn('node', [`scripts/${script}.mjs`, ...args], {
    env: {
      ...process.env,
      ASH_KEY: 'off',
      ...env,
      ASH_DATA: data,
      PORT: String(port),
      ...(speed && { ASH_UNDERSTUDY_SPEED: join(data, 'pace') }),
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const address = await new Promise<string>((resolve, reject) => {
    child.stdout.on('data', (text) => {
      const found = /is at (http:\S+)/.exec(String(text));
      if (found) resolve(found[1]!);
    });
    child.on('exit', () => reject(new Error('the server did not start')));
  });
  const halt = async () => {
    if (child.exitCode !== null || child.signalCode !== null) return;
    const ended = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGTERM');
    await ended;
  };
  return {
    address,
    data,
    pace,
    halt,
    stop: async () => {
      await halt();
      rmSync(data, { recursive: true, force: true });
    },
  };
}
