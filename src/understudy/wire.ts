/** The understudy on a socket: one line, one answer (domain.md §11), with faults of the line that can be switched on. */

import { createServer, type Server, type Socket } from 'node:net';
import { seeded, type Random } from '../core/random';
import type { Firmware } from './firmware';

/** Faults of the wire, as shares. */
export type Faults = {
  /** Of characters on their way to the machine. */
  lost: number;
  doubled: number;
  corrupted: number;
  /** Of whole lines on their way to it. */
  lostLines: number;
  /** Of lines on their way back. */
  lostAnswers: number;
  doubledAnswers: number;
  /** Of characters on their way back. */
  corruptedBack: number;
  /** Answers come up to this much later, ms. */
  lateMs: number;
  /** The link is cut, once, after this many lines. */
  cutAfter: number | null;
};
export const NO_FAULTS: Faults = {
  lost: 0,
  doubled: 0,
  corrupted: 0,
  lostLines: 0,
  lostAnswers: 0,
  doubledAnswers: 0,
  corruptedBack: 0,
  lateMs: 0,
  cutAfter: null,
};

/** Longest line that is taken, characters; more is thrown away. */
const LONGEST_LINE = 4096;

export type Wire = {
  port: number;
  /** Cuts every connection, as a cable that is pulled; new ones are taken unless `refuse` is said. */
  cut: (refuse?: boolean) => void;
  /** The cable is in again. */
  mend: () => void;
  close: () => Promise<void>;
};

/** Serves a machine on 127.0.0.1. @param port 0 takes a free one */
export function serveWire(
  machine: Firmware,
  { port = 0, faults = NO_FAULTS, seed = 1 } = {},
): Promise<Wire> {
  const random = seeded(seed);
  const sockets = new Set<Socket>();
  let lines = 0;
  let refused = false;
  const back = backward(faults, random, (text) => {
    for (const socket of sockets) if (socket.writable) socket.write(text, 'latin1');
  });
  machine.say = (line) => back(`${line}\n`);
  const server: Server = createServer((socket) => {
    if (refused) return void socket.destroy();
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
        if (faults.lostLines > 0 && random() < faults.lostLines) continue;
        machine.receive(line);
      }
      if (waiting.length > LONGEST_LINE) waiting = '';
    });
    socket.on('close', () => sockets.delete(socket));
    // A client that goes away is no trouble of the machine.
    socket.on('error', () => socket.destroy());
  });
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => {
      const address = server.address();
      const cut = (refuse = false) => {
        refused = refuse;
        for (const socket of sockets) socket.destroy();
      };
      resolve({
        port: typeof address === 'object' && address ? address.port : port,
        cut,
        mend: () => (refused = false),
        close: () =>
          new Promise((done) => {
            machine.close();
            cut();
            server.close(() => done());
          }),
      });
    });
  });
}

/** Lines on their way back: some are lost, some come twice, some late, and none before an earlier one. */
function backward(
  { lostAnswers, doubledAnswers, corruptedBack, lateMs }: Faults,
  random: Random,
  send: (text: string) => void,
): (line: string) => void {
  /** When the last line that is on its way arrives, ms. */
  let until = 0;
  const spoil = spoiler({ lost: 0, doubled: 0, corrupted: corruptedBack }, random);
  return (whole) => {
    const chance = lostAnswers + doubledAnswers > 0 ? random() : 1;
    if (chance < lostAnswers) return;
    const line = spoil(whole);
    const text = chance < lostAnswers + doubledAnswers ? line + line : line;
    if (lateMs === 0) return send(text);
    const now = performance.now();
    until = Math.max(until, now + lateMs * random());
    setTimeout(() => send(text), until - now);
  };
}

/**
 * Spoils characters, at most one in a line: a second fault can cancel the first in a sum of eight bits, which no
 * machine could notice.
 */
function spoiler(
  { lost, doubled, corrupted }: Pick<Faults, 'lost' | 'doubled' | 'corrupted'>,
  random: Random,
): (text: string) => string {
  if (lost + doubled + corrupted === 0) return (text) => text;
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
