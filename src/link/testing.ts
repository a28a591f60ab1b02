/** The link as tests and benchmarks start and ask it. */

import { spawn, type ChildProcess } from 'node:child_process';
import { connect } from 'node:net';
import type { Result } from '../core/result';
import type { Act, Answered } from './protocol';

/** Starts the link's own process; the promise is kept when it listens. */
export function startLink(database: string, socket: string): Promise<ChildProcess> {
  const child = spawn(process.execPath, ['--import', 'tsx', 'src/link/main.ts', database, socket], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  return new Promise((resolve) => child.stdout.once('data', () => resolve(child)));
}

/** Asks the link for one thing over a connection of its own. */
export function askOnce<T>(socket: string, act: Act): Promise<Result<T>> {
  return new Promise((resolve, reject) => {
    const wire = connect(socket, () => wire.write(`${JSON.stringify({ id: 1, act })}\n`));
    wire.setEncoding('utf8');
    wire.once('error', reject);
    let heard = '';
    wire.on('data', (piece) => {
      heard += piece as unknown as string;
      for (const line of heard.split('\n').slice(0, -1)) {
        const answer = JSON.parse(line) as Answered;
        if (!('id' in answer)) continue;
        wire.destroy();
        return resolve(answer as Result<T>);
      }
      heard = heard.slice(heard.lastIndexOf('\n') + 1);
    });
  });
}
