/**
 * The second door, for phones on the local network: closed until it is switched on, and behind it nobody but devices
 * that were let in with a code. It owns its listeners, codes and devices, and destroys the connections of a device
 * that is put out.
 */

import { createHash, randomBytes, randomInt, timingSafeEqual } from 'node:crypto';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { isIP, type Socket } from 'node:net';
import { networkInterfaces } from 'node:os';
import { join } from 'node:path';
import type { Duplex } from 'node:stream';
import { fail, ok, problem, problemLine, type Problem, type Result } from '../core/result';
import type { Right } from '../core/rights';
import { plainName } from '../core/text';
import { devices, type Device } from '../store/devices';
import { migrationsIn, openStore, type Db } from '../store/open';
import { own } from '../store/own';
import { hostOf, phoneAddresses, type Address } from './addresses';
import { deviceName, NAME_LENGTH, PAGE_POLICY, pairPage } from './page';
import { Pairing, type Offer } from './pairing';
import { Strangers } from './strangers';

export const COOKIE = 'ash_device';
/** Longest that browsers keep a cookie, s; it is given anew while it is used. */
const COOKIE_LASTS_S = 400 * 86_400;
const RENEW_MS = 86_400_000;
/** Use is written down no oftener than this, ms. */
const USED_EVERY_MS = 15_000;
/** How often the addresses of this computer are looked up, ms: a laptop moves from network to network. */
const LOOK_MS = 10_000;
/** Ports that are tried where one is busy. */
const MOST_PORTS = 20;
/** All connections: those of strangers are limited besides. */
const MOST_SOCKETS = 512;
/** Longer than browsers keep a connection that they mean to use again, ms: none is cut in its face. */
const KEEP_ALIVE_MS = 75_000;
const LONGEST_FORM = 2048;
/** Slowest that anybody may send the head of a request, and a code, ms. */
const [HEAD_MS, FORM_MS] = [10_000, 10_000];

type Listener = Address & { host: string; server: Server };
export type LanState = {
  on: boolean;
  /** Where phones find it, the likeliest first. */
  at: { host: string; connection: string }[];
  problems: Problem[];
  offer: Offer | null;
  closedUntil: number | null;
  devices: Device[];
};

type Options = {
  data: string;
  migrations: string;
  /** Port that is tried first. */
  port: number;
  /** The one address to listen on; null for every one that a phone could use. */
  address: string | null;
  /** Answers a request that may come in, as it is answered at the computer. */
  pass: (request: IncomingMessage, response: ServerResponse) => void;
  /** Why a request that may come in is refused all the same. */
  refusal: (request: IncomingMessage, host: string) => [number, string] | null;
  /** Told whenever the state is another. */
  changed: () => void;
  /** Whether nothing may be written now. */
  busy?: () => boolean;
  headers: Record<string, string>;
};

const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');

/** Whether two texts are the same, in a time that does not tell where they differ. */
const same = (a: string, b: string): boolean =>
  timingSafeEqual(createHash('sha256').update(a).digest(), createHash('sha256').update(b).digest());

export class Lan {
  /** Header by which the app is told which device asks; its value carries what no request can know. */
  readonly deviceHeader = 'x-ash-device';
  private readonly secret = randomBytes(16).toString('hex');
  private readonly db: Db;
  private readonly devices: ReturnType<typeof devices>;
  private readonly own: ReturnType<typeof own>;
  private readonly pairing = new Pairing(
    () => Date.now(),
    (below) => randomInt(below),
  );
  private listeners: Listener[] = [];
  private problems: Problem[] = [];
  private isOn = false;
  private looking: NodeJS.Timeout | null = null;
  private readonly strangers = new Strangers();
  private readonly sockets = new Map<number, Set<Socket>>();

  constructor(private readonly options: Options) {
    const opened = openStore(join(options.data, 'ash.sqlite'), migrationsIn(options.migrations));
    if (!opened.ok) throw new Error(opened.problems.map(problemLine).join(' '));
    this.db = opened.value;
    this.devices = devices(this.db);
    this.own = own(this.db);
  }

  /** Whether it was left switched on. */
  get wasOn(): boolean {
    return this.own.get('lan') === 'on';
  }

  state(): LanState {
    return {
      on: this.isOn,
      at: this.listeners.map(({ host, connection }) => ({ host, connection })),
      problems: this.problems,
      offer: this.pairing.current(),
      closedUntil: this.pairing.closedUntil(),
      devices: this.devices.all(),
    };
  }

  /** Opens the listeners. @param keep whether it stays so the next time */
  async switchOn(keep: boolean): Promise<LanState> {
    if (keep) this.own.set('lan', 'on');
    this.isOn = true;
    await this.look();
    this.looking ??= setInterval(() => void this.look(), LOOK_MS).unref();
    this.options.changed();
    return this.state();
  }

  /** Closes the listeners and every connection there is through them. */
  async switchOff(): Promise<LanState> {
    this.own.set('lan', 'off');
    this.isOn = false;
    if (this.looking) clearInterval(this.looking);
    this.looking = null;
    this.pairing.withdraw();
    this.problems = [];
    await Promise.all(this.listeners.splice(0).map(close));
    this.options.changed();
    return this.state();
  }

  offer(): Result<Offer> {
    const closed = this.pairing.closedUntil();
    const made = this.isOn && this.listeners.length > 0 ? this.pairing.offer() : null;
    this.options.changed();
    if (made) return ok(made);
    return fail(
      closed === null
        ? problem(
            'phones',
            'No phone can reach this computer now.',
            'Switch it on, or connect to a network.',
          )
        : problem(
            'phones',
            'Too many wrong codes were tried, so nobody is let in for a while.',
            `Show a code again in ${Math.ceil((closed - Date.now()) / 60_000)} minutes.`,
          ),
    );
  }

  withdraw(): void {
    this.pairing.withdraw();
    this.options.changed();
  }

  allow(id: number, rights: readonly Right[]): boolean {
    const done = this.devices.allow(id, rights);
    this.options.changed();
    return done;
  }

  /** Puts a device out at once: its cookie is worth nothing, and what it has open ends. */
  putOut(id: number): boolean {
    const done = this.devices.putOut(id, new Date().toISOString());
    for (const socket of this.sockets.get(id) ?? []) socket.destroy();
    this.sockets.delete(id);
    this.options.changed();
    return done;
  }

  /** The device that asks, by the header that this door has set; null for the computer itself. */
  device(header: string | null): Device | null {
    if (header === null) return null;
    const [id = '', secret = ''] = header.split('.');
    if (!same(secret, this.secret)) throw new Error('a request with a forged device');
    const device = this.devices.get(Number(id));
    if (!device) throw new Error('a request of a device that was put out');
    return device;
  }

  /** Listens on the addresses that there are now, and on no other. */
  private async look(): Promise<void> {
    const { address } = this.options;
    const wanted =
      address === null ? phoneAddresses(networkInterfaces()) : [{ address, connection: '' }];
    const gone = this.listeners.filter((one) => !wanted.some((two) => two.address === one.address));
    const come = wanted.filter((one) => !this.listeners.some((two) => two.address === one.address));
    if (gone.length + come.length === 0 && this.listeners.length > 0) return;
    await Promise.all(gone.map(close));
    const opened = await Promise.all(come.map((one) => this.listen(one)));
    if (!this.isOn)
      return void (await Promise.all(opened.flatMap((one) => (one.ok ? close(one.value) : []))));
    const order = wanted.map((one) => one.address);
    this.listeners = [
      ...this.listeners.filter((one) => !gone.includes(one)),
      ...opened.flatMap((one) => (one.ok ? one.value : [])),
    ].sort((a, b) => order.indexOf(a.address) - order.indexOf(b.address));
    this.problems =
      wanted.length === 0
        ? [
            problem(
              'phones',
              'This computer is on no network.',
              'Connect it to the network that the phone is on.',
            ),
          ]
        : opened.flatMap((one) => (one.ok ? [] : one.problems));
    this.options.changed();
  }

  private async listen({ address, connection }: Address): Promise<Result<Listener>> {
    if (isIP(address) === 0 || /^(0\.0\.0\.0|::)$/.test(address))
      return fail(
        problem(
          '--lan',
          `“${address}” is no address of one connection.`,
          'Give one address of this computer, such as 192.168.1.5.',
        ),
      );
    for (let port = this.options.port; ; port++) {
      const host = hostOf(address, port);
      const server = createServer(
        { headersTimeout: HEAD_MS, maxHeaderSize: 16_384 },
        (request, response) => this.meet(request, response, host),
      );
      server.maxConnections = MOST_SOCKETS;
      server.keepAliveTimeout = KEEP_ALIVE_MS;
      server.on('connection', (socket: Socket) => this.strangers.meet(socket));
      server.on('upgrade', (_, socket) => socket.destroy());
      server.on('clientError', (_, socket) => this.shutOnWire(socket));
      const error = await new Promise<NodeJS.ErrnoException | null>((resolve) => {
        server.once('error', resolve);
        server.listen(port, address, () => resolve(null));
      });
      if (!error) return ok({ address, connection, host, server });
      if (error.code === 'EADDRINUSE' && port < this.options.port + MOST_PORTS) continue;
      return fail(
        problem(
          '--lan',
          `It cannot listen on ${address} (${error.code ?? error.message}).`,
          'Give an address that this computer has now.',
        ),
      );
    }
  }

  /** The same plain answer to what is no request at all. */
  private shutOnWire(socket: Duplex): void {
    if (!socket.writable) return void socket.destroy();
    const text = pairPage();
    const headers = Object.entries({
      ...this.options.headers,
      ...PAGE_HEADERS,
      'content-length': Buffer.byteLength(text),
      connection: 'close',
    }).map(([name, value]) => `${name}: ${value}`);
    socket.end(['HTTP/1.1 403 Forbidden', ...headers, '', text].join('\r\n'));
  }

  private meet(request: IncomingMessage, response: ServerResponse, host: string): void {
    if (!this.isOn) return void request.socket.destroy();
    for (const [name, value] of Object.entries(this.options.headers))
      response.setHeader(name, value);
    if (!ownRequest(request, host)) return shut(request, response);
    const [path] = (request.url ?? '').split('?');
    const device = this.deviceOf(request);
    if (path === '/pair') return void this.pair(request, response, host, device);
    if (!device) return shut(request, response);
    this.strangers.known(request.socket);
    this.holds(device.id, request.socket);
    this.isUsed(device, request, response);
    const refused = this.options.refusal(request, host);
    if (refused) {
      response.writeHead(refused[0], {
        'content-type': 'text/plain; charset=utf-8',
        connection: 'close',
      });
      return void response.end(`${refused[1]}\n`);
    }
    request.headers[this.deviceHeader] = `${device.id}.${this.secret}`;
    this.options.pass(request, response);
  }

  private deviceOf({ headers }: IncomingMessage): Device | null {
    const token = cookieOf(headers.cookie ?? '');
    return token === null ? null : this.devices.byHash(hashOf(token));
  }

  /** Remembers that a connection is a device's, to end it with the device. */
  private holds(id: number, socket: Socket): void {
    const held = this.sockets.get(id) ?? new Set<Socket>();
    if (held.has(socket)) return;
    this.sockets.set(id, held.add(socket));
    socket.once('close', () => held.delete(socket));
  }

  private isUsed(device: Device, request: IncomingMessage, response: ServerResponse): void {
    const since = Date.now() - Date.parse(device.usedAt);
    // Nothing is written while everything is replaced.
    if (since < USED_EVERY_MS || this.options.busy?.()) return;
    this.devices.used(device.id, new Date().toISOString());
    if (since > RENEW_MS)
      response.setHeader('set-cookie', cookie(cookieOf(request.headers.cookie ?? '')!));
  }

  /** The page with the code; a right code lets the device in and leads to where it wanted to go. */
  private async pair(
    request: IncomingMessage,
    response: ServerResponse,
    host: string,
    device: Device | null,
  ): Promise<void> {
    const { method, headers, url = '' } = request;
    if (device) {
      response.writeHead(303, { location: '/', 'cache-control': 'no-store' });
      return void response.end();
    }
    if (method === 'GET' || method === 'HEAD') {
      const [, code = ''] = /[?&]code=(\d{6})(?:&|$)/.exec(url) ?? [];
      return page(response, 200, pairPage(code, deviceName(headers['user-agent'] ?? '')));
    }
    if (method !== 'POST') return shut(request, response);
    const form = await formOf(request);
    const code = (form?.get('code') ?? '').replace(/[\s-]/g, '');
    if (!form || !this.pairing.take(code, same)) {
      this.options.changed();
      return shut(request, response);
    }
    const token = randomBytes(32).toString('base64url');
    const told = (field: string) => plainName((form.get(field) ?? '').slice(0, NAME_LENGTH));
    const name = told('name') || deviceName(headers['user-agent'] ?? '');
    const reader = told('reader') || name;
    this.devices.letIn(name, reader, hashOf(token), new Date().toISOString());
    this.options.changed();
    response.writeHead(303, {
      location: wantedPath(headers.referer, host),
      'set-cookie': cookie(token),
      'cache-control': 'no-store',
    });
    response.end();
  }
}

/** Names itself as an address that is listened on, and is asked by no other site. */
function ownRequest({ headers, method }: IncomingMessage, host: string): boolean {
  const site = headers['sec-fetch-site'];
  return (
    (method === 'GET' || method === 'HEAD' || method === 'POST') &&
    headers.host?.toLowerCase() === host &&
    (headers.origin === undefined || headers.origin === `http://${host}`) &&
    (site === undefined || site === 'same-origin' || site === 'none')
  );
}

const cookie = (token: string): string =>
  `${COOKIE}=${token}; HttpOnly; SameSite=Strict; Path=/; Max-Age=${COOKIE_LASTS_S}`;

/** The one token that was sent; null where there is none, or more than one. */
function cookieOf(header: string): string | null {
  const sent = header.split(';').flatMap((one) => {
    const [name = '', value = ''] = one.trim().split('=');
    return name === COOKIE ? [value] : [];
  });
  return sent.length === 1 && /^[\w-]{43}$/.test(sent[0]!) ? sent[0]! : null;
}

/** Where somebody was before the code was asked for; the front page where that is not known. */
function wantedPath(referer: string | undefined, host: string): string {
  if (!referer || !URL.canParse(referer)) return '/';
  const { host: from, pathname, search } = new URL(referer);
  return from === host && pathname !== '/pair' && !pathname.startsWith('//')
    ? pathname + search
    : '/';
}

const PAGE_HEADERS = {
  'content-type': 'text/html; charset=utf-8',
  'content-security-policy': PAGE_POLICY,
  'cache-control': 'no-store',
  // The form says where it was shown, so that a code leads there.
  'referrer-policy': 'same-origin',
  // By this the outbox of a page knows that its acts are not refused but may come later.
  'x-ash-door': 'shut',
};

function page(response: ServerResponse, status: number, text: string): void {
  response.writeHead(status, PAGE_HEADERS);
  response.end(text);
}

/** The same plain answer to everybody who may not come in, whatever they tried. */
function shut(request: IncomingMessage, response: ServerResponse): void {
  response.setHeader('connection', 'close');
  page(response, 403, pairPage());
  // What is still being sent is not waited for.
  response.once('finish', () => setTimeout(() => request.socket.destroy(), 200).unref());
}

/** A short form, or null for what is none or comes too slowly. */
function formOf(request: IncomingMessage): Promise<URLSearchParams | null> {
  const { headers } = request;
  const size = Number(headers['content-length'] ?? NaN);
  const fits =
    /^application\/x-www-form-urlencoded\b/.test(headers['content-type'] ?? '') &&
    size > 0 &&
    size <= LONGEST_FORM;
  if (!fits) return Promise.resolve(null);
  return new Promise((resolve) => {
    const pieces: Buffer[] = [];
    const timer = setTimeout(() => resolve(null), FORM_MS);
    request.on('data', (piece: Buffer) => pieces.push(piece));
    request.once('close', () => resolve(null));
    request.once('end', () => {
      clearTimeout(timer);
      resolve(new URLSearchParams(Buffer.concat(pieces).toString('utf8')));
    });
  });
}

function close({ server }: Listener): Promise<void> {
  return new Promise((resolve) => {
    server.close(() => resolve());
    server.closeAllConnections();
  });
}
