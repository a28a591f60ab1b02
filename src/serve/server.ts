/**
 * The server itself: a door, a second one for phones, and the app behind both. Started by serve.ts with the port, the
 * mode (`start` or `dev`), whether the door for phones is `open` from the start, and the one address it listens on;
 * stands where the program is.
 */

import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import next from 'next';
import { Desk } from '../lan/desk';
import { Key, keyIn } from '../lan/key';
import { Lan } from '../lan/lan';
import { HEADERS, refusal } from './door';
import { MIGRATIONS } from './home';
import { pagesInTurn } from './pages-in-turn';
import { passing, refuse } from './pass';

const [port, mode, phones = 'shut', address = ''] = process.argv.slice(2);
const data = process.env.ASH_DATA;
if (!port || !data) throw new Error('say where: server.js PORT MODE, with ASH_DATA');
/** What the app of this process and its doors share. */
const shared = globalThis as {
  ashReplacing?: boolean;
  ashLive?: { emit: (topic: string) => void };
  ashLan?: Lan;
};
const hostname = '127.0.0.1';
const dev = mode === 'dev';
// As the build was set up, told in the way that the standalone build tells it: nothing of that is worked out again.
if (!dev) {
  const built = readFileSync(join(process.cwd(), '.next/required-server-files.json'), 'utf8');
  const { config } = JSON.parse(built) as { config: object };
  process.env.__NEXT_PRIVATE_STANDALONE_CONFIG = JSON.stringify(config);
}
const app = next({ dev, dir: process.cwd(), hostname, port: Number(port) });
const inTurn = pagesInTurn(app.getRequestHandler());
await app.prepare();

/** Quiet this long, ms, the server gives back what a burst of pages has left behind. */
const QUIET_MS = 10_000;
let [last, cleared] = [Date.now(), Date.now()];
setInterval(() => {
  if (cleared > last || Date.now() - last < QUIET_MS) return;
  cleared = Date.now();
  void globalThis.gc?.();
}, QUIET_MS / 2).unref();

const isReplacing = (): boolean => shared.ashReplacing === true;

const migrations = join(process.cwd(), MIGRATIONS);
const handOn = passing({ desk: new Desk(data, migrations), isReplacing, answer: inTurn });
const pass = (request: IncomingMessage, response: ServerResponse): void => {
  last = Date.now();
  handOn(request, response);
};
const lan = new Lan({
  data,
  migrations,
  port: Number(port),
  address: address === '' ? null : address,
  headers: HEADERS,
  pass,
  refusal: (request, host) => refusal(request, (asked) => asked.toLowerCase() === host),
  changed: () => shared.ashLive?.emit('/phones'),
  busy: isReplacing,
});
// Pages that manage phones run in this process and find it here.
shared.ashLan = lan;

// On a computer with several accounts; nothing of it is seen where there is one.
const key = process.env.ASH_KEYED === 'yes' ? new Key(keyIn(data), Number(port)) : null;
const server = createServer((request, response) => {
  const refused = refusal(request);
  if (refused) return refuse(request, response, ...refused);
  for (const [name, value] of Object.entries(HEADERS)) response.setHeader(name, value);
  if (key?.answers(request, response)) return;
  // What tells the app of a device is set by the door of devices alone.
  delete request.headers[lan.deviceHeader];
  pass(request, response);
});
server.on('upgrade', (request, socket, head) => {
  if (refusal(request)) return socket.destroy();
  // Pages are followed by streams of events: nothing here speaks another protocol, but what rebuilds while one edits.
  if (!dev) {
    socket.end('HTTP/1.1 400 Bad Request\r\nConnection: close\r\nContent-Length: 0\r\n\r\n');
    return;
  }
  void app.getUpgradeHandler()(request, socket, head);
});
// Longer than browsers keep a connection that they mean to use again: none is cut in its face.
server.keepAliveTimeout = 75_000;
server.headersTimeout = 80_000;
server.listen(Number(port), hostname);
if (phones === 'open' || lan.wasOn) {
  const { at, problems } = await lan.switchOn(false);
  for (const { host } of at) process.stderr.write(`Phones find it at http://${host}\n`);
  for (const { what, mend } of problems) process.stderr.write(`${what} ${mend}\n`);
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const)
  process.on(signal, () => {
    server.close();
    process.exit(0);
  });
