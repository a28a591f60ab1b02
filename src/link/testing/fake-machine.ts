/**
 * A machine for tests of the link alone: a few lines that answer as machines do, with whatever trouble is wanted at a
 * place that is chosen. Unlike the understudy it knows nothing of G-code but what a link has to care for.
 */

import { createServer, type Socket } from 'node:net';
import { checksum } from '../../core/gcode/read';

export type Trouble =
  /** Says nothing any more on this connection; a new one is heard. */
  | 'silent'
  /** Says nothing any more on any. */
  | 'dead'
  | 'closes'
  | 'resets'
  /** Restarts: the count is gone, heaters are off, it greets. */
  | 'restarts';

export type Manner = {
  /** Whether it counts lines; one that does not takes whatever comes. */
  counts?: boolean;
  /** Does not know numbers before a line. */
  numberless?: boolean;
  /** Every line back comes as so many pieces of one byte, with so much between, ms. */
  byteEveryMs?: number;
  /** Odd lines among the answers, each before an `ok`. */
  odd?: readonly string[];
  /** Each answer comes so much later, ms. */
  lateMs?: number;
  /** Says `ok` before it has done what it was told, ms. */
  doesLaterMs?: number;
  echoes?: boolean;
  /** Says that it is busy before each answer that waits. */
  busy?: boolean;
  /** Speaks of its temperatures by itself, ms. */
  speaksEveryMs?: number;
  /** Never says a temperature. */
  mute?: boolean;
  /** Whether it never does what it is told of heat, though it says `ok`. */
  stuck?: boolean;
  /** Trouble at the n-th line after the first words: before its answer, or after it. */
  trouble?: { kind: Trouble; at: number; when: 'before' | 'after' };
};

/** How much a heater that is off has cooled between two looks at it, °C: fast, so that tests need not wait. */
const COOLS = 20;
const WARM = 21;

const NUMBERED = /^N(\d+)\s*([^*]*)\*(\d{1,3})$/;

export class FakeMachine {
  /** What it has done, in order, without questions. */
  readonly done: string[] = [];
  /** What would have moved or extruded, with the modes that were in force. */
  readonly moves: { line: string; z: number; e: number; relative: boolean }[] = [];
  port = 0;
  lines = 0;
  private last = 0;
  private numbered = false;
  private readonly sockets = new Set<Socket>();
  private deaf = new Set<Socket>();
  private dead = false;
  private readonly timers = new Set<NodeJS.Timeout>();
  private readonly heaters = { nozzle: { now: WARM, target: 0 }, bed: { now: WARM, target: 0 } };
  private relative = false;
  private relativeE = false;
  z = 0;
  e = 0;
  private chain = Promise.resolve();
  private readonly server = createServer((socket) => this.serve(socket));

  constructor(readonly manner: Manner = {}) {}

  listen(): Promise<this> {
    if (this.manner.speaksEveryMs)
      this.every(this.manner.speaksEveryMs, () => this.say(this.temperatures()));
    return new Promise((resolve) =>
      this.server.listen(0, '127.0.0.1', () => {
        this.port = (this.server.address() as { port: number }).port;
        resolve(this);
      }),
    );
  }

  get address(): string {
    return `tcp:127.0.0.1:${this.port}`;
  }

  get isHot(): boolean {
    return this.heaters.nozzle.target > 0 || this.heaters.bed.target > 0;
  }

  get isDead(): boolean {
    return this.dead;
  }

  get modes(): string {
    return `${this.relative ? 'G91' : 'G90'} ${this.relativeE ? 'M83' : 'M82'}`;
  }

  async close(): Promise<void> {
    for (const timer of this.timers) clearTimeout(timer);
    for (const socket of this.sockets) socket.destroy();
    await new Promise((resolve) => this.server.close(resolve));
  }

  private every(ms: number, act: () => void): void {
    const timer = setInterval(act, ms);
    this.timers.add(timer);
  }

  private serve(socket: Socket): void {
    if (this.dead) this.deaf.add(socket);
    this.sockets.add(socket);
    socket.setNoDelay(true);
    socket.setEncoding('latin1');
    socket.on('error', () => socket.destroy());
    socket.on('close', () => this.sockets.delete(socket));
    let ear = '';
    socket.on('data', (piece) => {
      if (this.deaf.has(socket)) return;
      ear += piece as unknown as string;
      for (let end = ear.indexOf('\n'); end !== -1; end = ear.indexOf('\n')) {
        const line = ear.slice(0, end).trim();
        ear = ear.slice(end + 1);
        // One line after the other, however long an answer takes.
        if (line !== '') this.chain = this.chain.then(() => this.take(line, socket));
      }
    });
  }

  private async wait(ms: number): Promise<void> {
    await new Promise<void>((resolve) => {
      const timer = setTimeout(() => {
        this.timers.delete(timer);
        resolve();
      }, ms);
      this.timers.add(timer);
    });
  }

  private say(text: string): void {
    for (const socket of this.sockets)
      if (!this.deaf.has(socket) && socket.writable) socket.write(`${text}\n`, 'latin1');
  }

  private async answer(...texts: string[]): Promise<void> {
    const { byteEveryMs, lateMs } = this.manner;
    if (lateMs) await this.wait(lateMs);
    for (const text of texts) {
      if (byteEveryMs === undefined) this.say(text);
      else
        for (const sign of `${text}\n`) {
          for (const socket of this.sockets)
            if (!this.deaf.has(socket) && socket.writable) socket.write(sign, 'latin1');
          await this.wait(byteEveryMs);
        }
    }
  }

  private temperatures(): string {
    const { nozzle, bed } = this.heaters;
    return `T:${nozzle.now.toFixed(1)} /${nozzle.target.toFixed(1)} B:${bed.now.toFixed(1)} /${bed.target.toFixed(1)}`;
  }

  private async take(text: string, from: Socket): Promise<void> {
    if (this.deaf.has(from)) return;
    if (this.manner.echoes) this.say(`echo:${text}`);
    const parts = NUMBERED.exec(text);
    if (parts && this.manner.numberless)
      return this.answer(`echo:Unknown command: "N${parts[1]}"`, 'ok');
    const command = parts ? parts[2]!.trim() : text;
    if (parts && this.manner.counts !== false) {
      const number = Number(parts[1]);
      const whole = checksum(text.slice(0, text.lastIndexOf('*'))) === Number(parts[3]);
      const jump = command.startsWith('M110');
      if (!whole || (!jump && number !== this.last + 1))
        return this.answer(
          `Error:Line Number is not Last Line Number+1, Last Line: ${this.last}`,
          `Resend: ${this.last + 1}`,
          'ok',
        );
      this.last = jump ? 0 : number;
      this.numbered = true;
      if (jump) return this.answer('ok');
    } else if (this.numbered && this.manner.counts !== false && !/^M1(?:12|08|05)/.test(text))
      return this.answer('Error:No Line Number with checksum', `Resend: ${this.last + 1}`, 'ok');
    else if (command.startsWith('M110')) return this.answer('ok');
    await this.execute(command, from);
  }

  private async execute(command: string, from: Socket): Promise<void> {
    const word = command.split(/\s/)[0]!;
    const asks = word === 'M105' || word === 'M115';
    const trouble = this.manner.trouble;
    const now = !asks && trouble !== undefined && ++this.lines === trouble.at;
    if (!asks && this.manner.doesLaterMs !== undefined) {
      const timer = setTimeout(() => this.act(command), this.manner.doesLaterMs);
      this.timers.add(timer);
    } else if (!asks) this.act(command);
    if (this.manner.busy && !asks) {
      this.say('echo:busy: processing');
      await this.wait(1);
    }
    if (now && trouble.when === 'before') return this.strike(trouble.kind, from);
    if (word === 'M105') {
      this.cool();
      await this.answer(this.manner.mute ? 'ok' : `ok ${this.temperatures()}`);
    } else {
      if (word === 'M115') this.say('FIRMWARE_NAME:fake, for tests');
      await this.answer(...(this.manner.odd ?? []), 'ok');
    }
    if (now && trouble.when === 'after') this.strike(trouble.kind, from);
  }

  private cool(): void {
    for (const heater of Object.values(this.heaters))
      if (heater.target > 0) heater.now = heater.target;
      else if (!this.manner.stuck) heater.now = Math.max(WARM, heater.now - COOLS);
  }

  private act(command: string): void {
    this.done.push(command);
    const word = command.split(/\s/)[0]!;
    const number = (letter: string): number | null => {
      const found = new RegExp(`${letter}(-?[\\d.]+)`).exec(command.slice(word.length));
      return found ? Number(found[1]) : null;
    };
    if (/^M1(?:04|09)$/.test(word)) this.heaters.nozzle.target = number('S') ?? 0;
    if (/^M1(?:40|90)$/.test(word)) this.heaters.bed.target = number('S') ?? 0;
    if (/^M1(?:09|90)$/.test(word)) this.cool();
    if (word === 'G90' || word === 'G91') this.relative = word === 'G91';
    if (word === 'M82' || word === 'M83') this.relativeE = word === 'M83';
    if (!/^G[01]$/.test(word)) return;
    const [z, e] = [number('Z'), number('E')];
    if (z !== null) this.z = this.relative ? this.z + z : z;
    if (e !== null) this.e = this.relativeE ? this.e + e : e;
    this.moves.push({ line: command, z: this.z, e: this.e, relative: this.relative });
  }

  /** The cable is pulled, and in again at once. */
  cut(): void {
    for (const socket of this.sockets) socket.destroy();
  }

  private strike(kind: Trouble, from: Socket): void {
    if (kind === 'silent') this.deaf.add(from);
    if (kind === 'dead') {
      this.dead = true;
      for (const socket of this.sockets) this.deaf.add(socket);
    }
    if (kind === 'closes') from.destroy();
    if (kind === 'resets') from.resetAndDestroy();
    if (kind !== 'restarts') return;
    this.last = 0;
    this.numbered = false;
    this.relative = this.relativeE = false;
    this.heaters.nozzle.target = this.heaters.bed.target = 0;
    this.say('start');
  }
}
