/**
 * The server itself: a door, a second one for phones, and the app behind both. Started by serve.mjs with the port, the
 * mode (`start` or `dev`), whether the door for phones is `open` from the start, and the one address it listens on.
 */

import { createServer } from 'node:http';
import { join } from 'node:path';
import next from 'next';
import { tsImport } from 'tsx/esm/api';
import { actFits, HEADERS, refusal } from './door.mjs';

const [port, mode, phones = 'shut', address = ''] = process.argv.slice(2);
const hostname = '127.0.0.1';
const app = next({ dev: mode === 'dev', hostname, port: Number(port) });
const handle = app.getRequestHandler();
await app.prepare();

function refuse(request, response, status, text) {
  response.writeHead(status, {
    ...HEADERS,
    'content-type': 'text/plain; charset=utf-8',
    connection: 'close',
  });
  response.end(`${text}\n`);
  // What is still being sent is not waited for.
  response.on('finish', () => setTimeout(() => request.socket.destroy(), 200).unref());
}

/** Quiet this long, ms, the server gives back what a burst of pages has left behind. */
const QUIET_MS = 10_000;
let [last, cleared] = [Date.now(), Date.now()];
setInterval(() => {
  if (cleared > last || Date.now() - last < QUIET_MS) return;
  cleared = Date.now();
  globalThis.gc?.();
}, QUIET_MS / 2).unref();

function answerJson(response, status, body) {
  response.writeHead(status, {
    ...HEADERS,
    'content-type': 'application/json',
    'cache-control': 'no-store',
    'x-ash-store': desk.identity(),
  });
  response.end(JSON.stringify(body));
}

const PRESSED = /^\/pressed\/([\w.-]+)$/;

/** Hands a request on to the app; who asks has been seen to. */
function pass(request, response) {
  last = Date.now();
  const [, press] = PRESSED.exec(request.url) ?? [];
  if (press !== undefined) {
    void desk.fate(press).then((state) => answerJson(response, 200, { state }));
    return;
  }
  const turned = desk.turned(request);
  if (turned) {
    answerJson(response, turned.status, { problems: turned.problems });
    return request.resume();
  }
  // Everything is being replaced: what would be written waits, and is sent again.
  if (globalThis.ashFar?.doing === 'replacing' && request.method === 'POST') {
    answerJson(response, 503, { problems: [desk.replacing] });
    return request.resume();
  }
  const act = request.method === 'POST' && request.headers['next-action'] !== undefined;
  const come = act ? actFits(request) : Promise.resolve(true);
  const answered = come.then((fits) =>
    fits ? handle(request, response) : refuse(request, response, 400, 'This is no act of a page.'),
  );
  desk.follow(request, answered, () => response.statusCode);
  answered.catch((error) => {
    process.stderr.write(`${error.stack}\n`);
    if (!response.headersSent) refuse(request, response, 500, 'A fault of the program.');
  });
}

const { Lan } = await tsImport('../src/lan/lan.ts', import.meta.url);
const { Desk } = await tsImport('../src/lan/desk.ts', import.meta.url);
const migrations = join(import.meta.dirname, '../src/store/migrations');
const desk = new Desk(process.env.ASH_DATA, migrations);
const lan = new Lan({
  data: process.env.ASH_DATA,
  migrations,
  port: Number(port),
  address: address === '' ? null : address,
  headers: HEADERS,
  pass,
  refusal: (request, host) => refusal(request, (asked) => asked.toLowerCase() === host),
  changed: () => globalThis.ashLive?.emit('/phones'),
});
// Pages that manage phones run in this process and find it here.
globalThis.ashLan = lan;

const server = createServer((request, response) => {
  const refused = refusal(request);
  if (refused) return refuse(request, response, ...refused);
  for (const [name, value] of Object.entries(HEADERS)) response.setHeader(name, value);
  // What tells the app of a device is set by the door of devices alone.
  delete request.headers[lan.deviceHeader];
  pass(request, response);
});
server.on('upgrade', (request, socket, head) => {
  if (refusal(request)) return socket.destroy();
  // Pages are followed by streams of events: nothing here speaks another protocol, but what rebuilds while one edits.
  if (mode !== 'dev')
    return socket.end('HTTP/1.1 400 Bad Request\r\nConnection: close\r\nContent-Length: 0\r\n\r\n');
  void app.getUpgradeHandler()(request, socket, head);
});
server.listen(Number(port), hostname);
if (phones === 'open' || lan.wasOn) {
  const { at, problems } = await lan.switchOn(false);
  for (const { host } of at) process.stderr.write(`Phones find it at http://${host}\n`);
  for (const { what, mend } of problems) process.stderr.write(`${what} ${mend}\n`);
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
  process.on(signal, () => {
    server.close();
    process.exit(0);
  });
