/** A server of its own for tests that need other data than all share, or that may harm it. */

import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

export type OwnServer = { address: string; data: string; stop: () => Promise<void> };

/**
 * Starts `demo` (filled) or `start` (empty) on a folder of its own; simulated machines run `speed` times as fast as
 * real ones.
 */
export async function ownServer(
  script: 'demo' | 'start',
  port: number,
  { args = [], speed }: { args?: string[]; speed?: number } = {},
): Promise<OwnServer> {
  const data = mkdtempSync(join(tmpdir(), 'ash-own-'));
  const child = spawn('node', [`scripts/${script}.mjs`, ...args], {
    env: {
      ...process.env,
      ASH_DATA: data,
      PORT: String(port),
      ...(speed && { ASH_UNDERSTUDY_SPEED: String(speed) }),
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
  return {
    address,
    data,
    stop: async () => {
      const ended = new Promise((resolve) => child.once('exit', resolve));
      child.kill('SIGTERM');
      await ended;
      rmSync(data, { recursive: true, force: true });
    },
  };
}
