/** The link as tests and benchmarks start and ask it. */

import { spawn, type ChildProcess } from 'node:child_process';

/** Starts the link's own process; the promise is kept when it listens. */
export function startLink(database: string, socket: string): Promise<ChildProcess> {
  const child = spawn(process.execPath, ['dist/link.js', database, socket], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  return new Promise((resolve) => child.stdout.once('data', () => resolve(child)));
}
