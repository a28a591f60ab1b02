/** The socket of the link: one JSON a line, and only for whoever runs the product. */

import { chmodSync, existsSync, rmSync } from 'node:fs';
import { connect, createServer, type Server, type Socket } from 'node:net';
import { fail, parseWith, problem, type Result } from '../core/result';
import { parseAddress } from './address';
import { Held } from './held';
import { Asked, simulatedIn, type Act, type Answered } from './protocol';

import type { Records } from './records';
import { listPorts } from './transport';

/** Longest line that is taken, characters: a bench with long blocks. */
const LONGEST = 1_000_000;

/** A simulated machine that stands ready. */
export type StandIn = { name: string; address: string };

export class Acts {
  private readonly held = new Map<number, Held>();
  private readonly sockets = new Set<Socket>();
  private server: Server | null = null;

  constructor(private readonly records: Records) {}

  /** Machines that were linked are looked for; what printed when the last link ended stands as interrupted. */
  begin(at: string, standIns: readonly StandIn[]): void {
    const left = new Set(this.records.interrupted(at).map(({ machine }) => machine));
    for (const { machine, address, simulated, tools } of this.records.wires()) {
      const held = this.of(machine);
      held.leftHot = left.has(machine);
      const played = simulatedIn(simulated);
      // A simulated machine stands somewhere else every time.
      const now = played && standIns.find(({ name }) => name === played.name);
      held.resume(now?.address ?? address, played, tools);
    }
  }

  private of(machine: number): Held {
    const known = this.held.get(machine);
    if (known) return known;
    const held = new Held(machine, this.records, (changed, revision) =>
      this.broadcast({ changed, revision }),
    );
    this.held.set(machine, held);
    return held;
  }

  private broadcast(told: Answered): void {
    const line = `${JSON.stringify(told)}\n`;
    for (const socket of this.sockets) socket.write(line);
  }

  async do(act: Act): Promise<Result<unknown>> {
    if (act.act === 'ports') return { ok: true, value: listPorts() };
    const held = this.of(act.machine);
    switch (act.act) {
      case 'look':
        return { ok: true, value: held.state };
      case 'heat-rows':
        return { ok: true, value: held.heatRows };
      case 'connect': {
        const taken = this.takenBy(act.address, act.machine);
        if (taken) return taken;
        const done = await held.connect(act);
        if (done.ok)
          this.records.keepWire(
            act.machine,
            act.address,
            act.simulated && JSON.stringify(act.simulated),
            new Date().toISOString(),
          );
        return done;
      }
      case 'disconnect': {
        const done = held.disconnect();
        if (done.ok) this.records.dropWire(act.machine);
        return done;
      }
      case 'settings':
        return held.settings(act);
      case 'apply':
        return held.apply(act);
      case 'store':
        return held.store(act);
      case 'talk':
        return held.say(act.line);
      case 'heat':
        return held.heatTo(act);
      case 'idle':
        this.records.setIdle(act.machine, act.minutes);
        return held.idleAfter(act.minutes);
      case 'tune':
        return held.tune(act);
      case 'feed':
        return held.feed(act);
      case 'apply-tuning':
        return held.applyTuning(act);
      case 'emergency':
        return held.emergency();
      case 'print':
        return held.print(act);
      case 'nudge':
        return held.nudge(act.mm);
      default:
        return held.steer(act.act);
    }
  }

  /** Two machines of the store cannot be one on the wire. */
  private takenBy(address: string, machine: number): Result<never> | null {
    const parsed = parseAddress(address);
    if (!parsed.ok) return parsed;
    for (const [id, { state }] of this.held)
      if (id !== machine && state.address === address && state.link !== 'off')
        return fail(
          problem(
            'address',
            'Another machine of yours is linked to this address.',
            'Disconnect that one first.',
          ),
        );
    return null;
  }

  /** Listens; a socket that was left behind is taken over, one that answers is not. */
  async listen(path: string): Promise<boolean> {
    if (existsSync(path)) {
      if (await answers(path)) return false;
      rmSync(path);
    }
    const server = (this.server = createServer((socket) => this.serve(socket)));
    await new Promise<void>((resolve, reject) => {
      server.once('error', reject);
      // Nobody else may open it, not even for the moment before its rights are set.
      const mask = process.umask(0o177);
      server.listen(path, () => {
        process.umask(mask);
        chmodSync(path, 0o600);
        resolve();
      });
    });
    return true;
  }

  private serve(socket: Socket): void {
    this.sockets.add(socket);
    socket.setEncoding('utf8');
    let ear = '';
    socket.on('data', (piece) => {
      ear += piece as unknown as string;
      for (let end = ear.indexOf('\n'); end !== -1; end = ear.indexOf('\n')) {
        const line = ear.slice(0, end);
        ear = ear.slice(end + 1);
        void this.answer(line, socket);
      }
      if (ear.length > LONGEST) socket.destroy();
    });
    socket.on('error', () => socket.destroy());
    socket.on('close', () => this.sockets.delete(socket));
  }

  private async answer(line: string, socket: Socket): Promise<void> {
    let data: unknown;
    try {
      data = JSON.parse(line);
    } catch {
      return void socket.destroy();
    }
    const asked = parseWith(Asked, data, 'act');
    const id = Number((data as { id?: unknown } | null)?.id ?? 0);
    const done = asked.ok
      ? await this.do(asked.value.act).catch((error: Error) => {
          process.stderr.write(`${error.stack}\n`);
          return fail(problem('link', 'A fault of the program.', 'Try once more.'));
        })
      : asked;
    if (socket.writable) socket.write(`${JSON.stringify({ id, ...done })}\n`);
  }

  async close(): Promise<void> {
    this.server?.close();
    await Promise.all([...this.held.values()].map((held) => held.close()));
    for (const socket of this.sockets) socket.destroy();
  }
}

/** Whether somebody answers at a socket. */
function answers(path: string): Promise<boolean> {
  return new Promise((resolve) => {
    const socket = connect(path);
    socket.once('connect', () => {
      socket.destroy();
      resolve(true);
    });
    socket.once('error', () => resolve(false));
  });
}
