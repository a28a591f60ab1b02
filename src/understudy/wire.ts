/** The understudy on a socket: one line, one answer (domain.md §11), with faults of the line that can be switched on. */

import { createServer, type Server, type Socket } from 'node:net';
import { seeded, type Random } from '../core/random';
import type { Firmware } from './firmware';

/** Faults of the wire. Rates are shares of characters on their way to the machine. */
export type Faults = {
  lost: number;
  doubled: number;
  corrupted: number;
  /** Answers come this much later, ms. */
  lateMs: number;
  /** The link is cut, once, after this many lines. */
  cutAfter: number | null;
};
export const NO_FAULTS: Faults = { lost: 0, doubled: 0, corrupted: 0, lateMs: 0, cutAfter: null };

/** Longest line that is taken, characters; more is thrown away. */
const LONGEST_LINE = 4096;

export type Wire = { port: number; close: () => Promise<void> };

/** Serves a machine on 127.0.0.1. @param port 0 takes a free one */
export function serveWire(
  machine: Firmware,
  { port = 0, faults = NO_FAULTS, seed = 1 } = {},
): Promise<Wire> {
  const random = seeded(seed);
  const sockets = new Set<Socket>();
  let lines = 0;
  const server: Server = createServer((socket) => {
    sockets.add(socket);
    socket.setNoDelay(true);
    const spoil = spoiler(faults, random);
    let waiting = '';
    socket.on('data', (piece) => {
      waiting += spoil(piece.toString('latin1'));
      for (let end = waiting.indexOf('\n'); end !== -1; end = waiting.indexOf('\n')) {
        const line = waiting.slice(0, end);
        waiting = waiting.slice(end + 1);
        lines++;
        if (lines === faults.cutAfter) {
          socket.destroy();
          return;
        }
        const text = machine
          .receive(line)
          .map((answer) => `${answer}\n`)
          .join('');
        if (text === '') continue;
        if (faults.lateMs > 0)
          setTimeout(() => socket.writable && socket.write(text), faults.lateMs);
        else socket.write(text);
      }
      if (waiting.length > LONGEST_LINE) waiting = '';
    });
    socket.on('close', () => sockets.delete(socket));
    // A client that goes away is no trouble of the machine.
    socket.on('error', () => socket.destroy());
    socket.write('start\n');
  });
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => {
      const address = server.address();
      resolve({
        port: typeof address === 'object' && address ? address.port : port,
        close: () =>
          new Promise((done) => {
            for (const socket of sockets) socket.destroy();
            server.close(() => done());
          }),
      });
    });
  });
}

/**
 * Spoils characters, at most one in a line: a second fault can cancel the first in a sum of eight bits, which no
 * machine could notice.
 */
function spoiler({ lost, doubled, corrupted }: Faults, random: Random): (text: string) => string {
  let spoiled = false;
  return (text) => {
    let out = '';
    for (const sign of text) {
      const chance = spoiled ? 1 : random();
      if (chance < lost) spoiled = true;
      else if (chance < lost + doubled) {
        spoiled = true;
        out += sign + sign;
      } else if (chance < lost + doubled + corrupted) {
        spoiled = true;
        out += String.fromCharCode(sign.charCodeAt(0) ^ (1 << Math.floor(random() * 7)));
      } else out += sign;
      if (sign === '\n') spoiled = false;
    }
    return out;
  };
}
