/**
 * Connections of whoever has not shown to be let in: few at a time, few of one address, none for long. Where there are
 * too many, the one that has been silent longest makes room, so that nobody keeps others out by keeping still.
 */

import type { Socket } from 'node:net';

export type Limits = {
  /** Connections of strangers, over all and of one address. */
  most: number;
  ofOne: number;
  /** Longest that one may keep still, ms. */
  silentMs: number;
};
export const LIMITS: Limits = { most: 96, ofOne: 16, silentMs: 10_000 };

export class Strangers {
  /** The longest silent first. */
  private readonly all = new Map<Socket, string>();

  constructor(private readonly limits: Limits = LIMITS) {}

  /** A connection that came: whose it is, nobody knows yet. */
  meet(socket: Socket): void {
    const address = socket.remoteAddress ?? '';
    const own = [...this.all].filter(([, from]) => from === address).map(([one]) => one);
    const crowd = own.length >= this.limits.ofOne ? own : [...this.all.keys()];
    if (own.length >= this.limits.ofOne || this.all.size >= this.limits.most)
      // Not only told to end: who keeps still does not answer either.
      crowd[0]?.destroy();
    this.all.set(socket, address);
    socket.setTimeout(this.limits.silentMs, () => socket.destroy());
    socket.once('close', () => this.all.delete(socket));
  }

  /** It is one that was let in: it may stay, and keep still. */
  known(socket: Socket): void {
    if (this.all.delete(socket)) socket.setTimeout(0);
  }

  get count(): number {
    return this.all.size;
  }
}
