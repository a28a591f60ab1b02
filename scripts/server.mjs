/** The server itself: a door, and the app behind it. Started by serve.mjs with the port and whether for developing. */

import { createServer } from 'node:http';
import next from 'next';
import { actFits, HEADERS, refusal } from './door.mjs';

const [port, mode] = process.argv.slice(2);
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

const server = createServer((request, response) => {
  last = Date.now();
  const refused = refusal(request);
  if (refused) return refuse(request, response, ...refused);
  for (const [name, value] of Object.entries(HEADERS)) response.setHeader(name, value);
  const act = request.method === 'POST' && request.headers['next-action'] !== undefined;
  const come = act ? actFits(request) : Promise.resolve(true);
  come
    .then((fits) =>
      fits
        ? handle(request, response)
        : refuse(request, response, 400, 'This is no act of a page.'),
    )
    .catch((error) => {
      process.stderr.write(`${error.stack}\n`);
      if (!response.headersSent) refuse(request, response, 500, 'A fault of the program.');
    });
});
server.on('upgrade', (request, socket, head) => {
  if (refusal(request)) return socket.destroy();
  void app.getUpgradeHandler()(request, socket, head);
});
server.listen(Number(port), hostname);
for (const signal of ['SIGINT', 'SIGTERM'])
  process.on(signal, () => {
    server.close();
    process.exit(0);
  });
