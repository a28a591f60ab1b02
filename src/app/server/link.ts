/** The server's end of the socket to the link, which owns every wire. */

import 'server-only';
import { connect, type Socket } from 'node:net';
import { fail, problem, type Problem, type Result } from '@/core/result';
import type { HeatRow, LinkState } from '@/core/link-state';
import type { Act, Answered } from '@/link/protocol';
import type { Port } from '@/link/transport';
import { keepFinished, whileKeeping } from './jobs';
import { changed } from './live';
import { store } from './store';

/** How long an act may take, ms: reading, applying and proving take seconds, a machine that restarts many. */
const PATIENCE_MS = 60_000;

/** A link that has ended is looked for again after this, ms. */
const AGAIN_MS = 1000;

type Waiting = (answer: Result<unknown>) => void;

class LinkClient {
  private socket: Socket | null = null;
  private readonly waiting = new Map<number, Waiting>();
  private last = 0;
  private follows = false;

  constructor(private readonly path: string) {}

  /** Keeps a connection, so that what ends on a machine is heard of whether a page is open or not. */
  follow(): void {
    this.follows = true;
    this.open();
    keepFinished();
  }

  private open(): Socket {
    if (this.socket) return this.socket;
    const socket = (this.socket = connect(this.path));
    socket.setEncoding('utf8');
    let ear = '';
    socket.on('data', (piece) => {
      ear += piece as unknown as string;
      for (let end = ear.indexOf('\n'); end !== -1; end = ear.indexOf('\n')) {
        this.heard(JSON.parse(ear.slice(0, end)) as Answered);
        ear = ear.slice(end + 1);
      }
    });
    socket.on('error', () => socket.destroy());
    socket.on('close', () => {
      this.socket = null;
      if (this.follows) setTimeout(() => this.follow(), AGAIN_MS).unref();
      for (const told of this.waiting.values()) told(noLink);
      this.waiting.clear();
    });
    return socket;
  }

  private heard(answer: Answered): void {
    if ('changed' in answer) {
      keepFinished();
      return changed(linkTopic(answer.changed), answer.revision);
    }
    if ('owed' in answer) return changed(OWED_TOPIC, answer.owed);
    const { id, ...result } = answer;
    this.waiting.get(id)?.(result);
    this.waiting.delete(id);
  }

  ask(act: Act): Promise<Result<unknown>> {
    const socket = this.open();
    const id = ++this.last;
    return new Promise((resolve) => {
      const late = setTimeout(() => {
        this.waiting.delete(id);
        resolve(
          fail(
            problem('link', 'The machine took too long to answer.', 'Look at it, then try again.'),
          ),
        );
      }, PATIENCE_MS);
      this.waiting.set(id, (answer) => {
        clearTimeout(late);
        resolve(answer);
      });
      socket.write(`${JSON.stringify({ id, act })}\n`);
    });
  }
}

const noLink = fail(
  problem('link', 'The part of Ash Ladder that talks to machines is starting.', 'Try once more.'),
);

const shared = globalThis as { ashLink?: LinkClient };

function client(): LinkClient | null {
  const path = process.env.ASH_LINK;
  return path ? (shared.ashLink ??= new LinkClient(path)) : null;
}

/** From the start of the server on. */
export const followLink = (): void => client()?.follow();

/** Asks the link for something; what it answers was made by the code of this product alone. */
export async function askLink<T = null>(act: Act): Promise<Result<T>> {
  return ((await client()?.ask(act)) ?? noLink) as Result<T>;
}

/** Under which pages follow a machine. */
export const linkTopic = (machine: number): string => `/machines/${machine}/link`;

/** Under which pages follow which machines may be hot. */
export const OWED_TOPIC = '/owed';

/** A machine on the wire as it stands; null while the link is starting. */
export async function linkState(machine: number): Promise<LinkState | null> {
  const state = await askLink<LinkState>({ act: 'look', machine });
  if (!state.ok) return null;
  // What a page says to be printed can be scored: asked after the look, since it may have ended in between.
  if (state.value.job?.state === 'finished') {
    keepFinished();
    await whileKeeping();
  }
  return state.value;
}

/** Whether what stands on the wire is a simulated machine. */
export async function isSimulated(machine: number): Promise<boolean> {
  return ((await linkState(machine))?.simulated ?? null) !== null;
}

/** Why nothing may be replaced now: something prints. */
export function printingNow(): Problem | null {
  const name = store().wires.underWay();
  return name === null
    ? null
    : problem('file', `${name} is printing.`, 'Wait for its end, or stop it first.');
}

/** Temperatures of the print on a machine that is under way, or was last. */
export async function heatRows(machine: number): Promise<HeatRow[]> {
  const rows = await askLink<HeatRow[]>({ act: 'heat-rows', machine });
  return rows.ok ? rows.value : [];
}

export async function portsHere(): Promise<Port[]> {
  const ports = await askLink<Port[]>({ act: 'ports' });
  return ports.ok ? ports.value : [];
}

/** The simulated machines that stand ready on the wire, if any do. */
export type StandIn = { machine: string; address: string; name: string; seed: number };
export const standIns = (): StandIn[] =>
  JSON.parse(process.env.ASH_UNDERSTUDIES ?? '[]') as StandIn[];
