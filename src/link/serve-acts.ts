/** The socket of the link: one JSON a line, and only for whoever runs the product. */

import { chmodSync, existsSync, rmSync } from 'node:fs';
import { connect, createServer, type Server, type Socket } from 'node:net';
import { fail, parseWith, problem, type Result } from '../core/result';
import { parseAddress } from './address';
import { Debts, type Debt } from './debts';
import { Held } from './held';
import type { Machine } from './machine';
import { Parting } from './parting';
import { WAITS_MS } from './patience';
import { Asked, simulatedIn, type Act, type Answered } from './protocol';
import type { Records } from './records';
import { replacing, underWay } from './refusals';
import { listPorts } from './transport';

/** Longest line that is taken, characters: a bench with long blocks. */
const LONGEST = 1_000_000;

/** A replacement that has not said that it is over by then is taken to be, ms. */
const LONGEST_ASIDE_MS = 30 * 60_000;
/** What may be asked meanwhile. */
const LOOKS = new Set<Act['act']>(['look', 'heat-rows']);

/** A simulated machine that stands ready. */
export type StandIn = { name: string; address: string };

export class Acts {
  private readonly held = new Map<number, Held>();
  private readonly sockets = new Set<Socket>();
  private readonly partings = new Map<string, Parting>();
  private server: Server | null = null;
  private standIns: readonly StandIn[] = [];
  /** While everything that is kept is replaced, nothing is begun; that is over at the latest by then. */
  private asideUntil = 0;
  private owedCount = 0;
  private readonly debts: Debts;

  constructor(private readonly records: Records) {
    this.debts = new Debts(
      records,
      () => this.broadcast({ owed: ++this.owedCount }),
      () => new Date().toISOString(),
    );
  }

  /** Machines that were linked are looked for; what printed when the last link ended stands as interrupted. */
  begin(at: string, standIns: readonly StandIn[]): void {
    this.standIns = standIns;
    const left = new Set(this.records.interrupted(at).map(({ machine }) => machine));
    this.debts.begin();
    // What was owed of one that was simulated is gone with the process that it was.
    for (const { address, simulated } of this.records.wires())
      if (simulated !== null) this.debts.paid({ address });
    this.resume(left);
  }

  /** @param left machines on which a print was cut short */
  private resume(left: ReadonlySet<number> = new Set()): void {
    for (const { machine, address, simulated, tools } of this.records.wires()) {
      const held = this.of(machine);
      const played = simulatedIn(simulated);
      // A simulated machine stands somewhere else every time.
      const now = played && this.standIns.find(({ name }) => name === played.name);
      const at = now?.address ?? address;
      if (left.has(machine)) {
        held.liesOnPrint = true;
        this.debts.owe({ machine, address: at, tools }, 'Ash Ladder ended while it printed');
      }
      held.resume(at, played, tools);
    }
    for (const debt of this.debts.due()) if (!this.isTended(debt)) this.part(debt, null);
  }

  private isTended({ address }: Debt): boolean {
    return [...this.held.values()].some((held) => held.tends(address));
  }

  private of(machine: number): Held {
    const known = this.held.get(machine);
    if (known) return known;
    const held = new Held(machine, {
      records: this.records,
      debts: this.debts,
      changed: (changed, revision) => this.broadcast({ changed, revision }),
      part: (debt, there) => this.part(debt, there),
    });
    this.held.set(machine, held);
    return held;
  }

  /** A machine that nobody is linked to is cooled all the same. */
  private part(debt: Debt, machine: Machine | null): void {
    if (this.partings.has(debt.address)) return void machine?.close();
    const parting = new Parting(debt, machine, this.debts);
    this.partings.set(debt.address, parting);
    void parting.over.then(() => this.partings.delete(debt.address));
  }

  private broadcast(told: Answered): void {
    const line = `${JSON.stringify(told)}\n`;
    for (const socket of this.sockets) socket.write(line);
  }

  async do(act: Act): Promise<Result<unknown>> {
    switch (act.act) {
      case 'ports':
        return { ok: true, value: listPorts() };
      case 'dismiss':
        this.debts.paid(act);
        return { ok: true, value: null };
      case 'stand-aside':
        return this.standAside();
      case 'come-back':
        return this.comeBack();
    }
    if (this.asideUntil > Date.now() && !LOOKS.has(act.act)) return fail(replacing);
    const held = this.of(act.machine);
    switch (act.act) {
      case 'look':
        return { ok: true, value: held.state };
      case 'heat-rows':
        return { ok: true, value: held.printing.heatRows };
      case 'connect': {
        const taken = this.takenBy(act.address, act.machine);
        if (taken) return taken;
        // Whoever cools it now lets go of it: from here on it is cooled over this link.
        await this.partings.get(act.address)?.end();
        const done = await held.connect(act);
        for (const debt of this.debts.due()) if (!this.isTended(debt)) this.part(debt, null);
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
        return held.chores.tune(act);
      case 'feed':
        return held.chores.feed(act);
      case 'apply-tuning':
        return held.chores.applyTuning(act);
      case 'emergency':
        return held.emergency();
      case 'print':
        return held.printing.print(act);
      case 'nudge':
        return held.printing.nudge(act.mm);
      default:
        return held.printing.steer(act.act);
    }
  }

  /** Everything that is kept is about to be replaced: nothing may be under way, and all links end, cooled. */
  private standAside(): Result<null> {
    for (const held of this.held.values()) if (held.busy) return fail(underWay);
    for (const held of this.held.values()) held.disconnect('other data was loaded');
    this.asideUntil = Date.now() + LONGEST_ASIDE_MS;
    return { ok: true, value: null };
  }

  /** Machines as they stand in the store now are looked for. */
  private async comeBack(): Promise<Result<null>> {
    // Whoever cools one of them lets go of it: two at one machine would each upset the other's count.
    for (const { address } of this.records.wires()) await this.partings.get(address)?.end();
    this.asideUntil = 0;
    this.resume();
    return { ok: true, value: null };
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
    await Promise.race([
      Promise.all([...this.partings.values()].map((parting) => parting.end())),
      new Promise((resolve) => setTimeout(resolve, WAITS_MS.ends).unref()),
    ]);
    for (const { name, why } of this.debts.due())
      process.stderr.write(`${name} may still be hot: ${why}. Look at it.\n`);
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
