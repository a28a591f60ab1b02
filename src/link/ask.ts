/** One question to the link's own process, from another. */

import { connect } from 'node:net';
import type { Result } from '../core/result';
import type { Act, Answered } from './protocol';

/** Asks the link for one thing over a connection of its own. It fails where nobody listens. */
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
