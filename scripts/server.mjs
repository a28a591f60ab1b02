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
const { Desk, Key, keyIn, Lan, Queue } = await tsImport('../src/lan/parts.ts', import.meta.url);

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

const isReplacing = () => globalThis.ashReplacing === true;

/** Pages that are made at once: more only take longer, each of them. */
const MOST_PAGES = 4;
const queue = new Queue(MOST_PAGES);
/**
 * What takes no turn: files of the build, streams that stay open, bytes that go out as they are, and what a page asks
 * about one thing. Acts take none either: some wait for a machine, and no page may wait for them.
 */
const NO_TURN =
  /^\/(_next\/static\/|live(\?|$)|everything|kept|adopt|owed|files\/|photos\/|looks\/|prints\/|readings\/|machines\/|ladders\/|benches\/|icon|manifest|touch-icon)/;
/** A page that has waited so long says so, ms, and comes again with its place kept. */
const SAYS_SO_MS = 900;
const PLACE = 'ash_came';
const LONGEST_PLACE_MS = 120_000;
const AFTER_ALL_MS = 60_000;

const waitingPage = (
  ahead,
) => `<!doctype html><html lang="en"><meta charset="utf-8"><meta http-equiv="refresh" content="0">
<title>Waiting · Ash Ladder</title><body style="font: 18px sans-serif; margin: 15vh auto; max-width: 30em; padding: 0 1em">
<p><b>Ash Ladder is busy.</b></p><p>${ahead === 1 ? 'One page is' : `${ahead} pages are`} made before this one; it comes as soon as it is its turn.</p>`;

/** When the one who asks came first. */
function cameAt({ headers }) {
  const said = Number(new RegExp(`${PLACE}=(\\d{13})`).exec(headers.cookie ?? '')?.[1]);
  const now = Date.now();
  return said > now - LONGEST_PLACE_MS && said <= now ? said : now;
}

/** Answers when it is its turn; what nobody waits for any more is left. */
function inTurn(request, response) {
  if (request.method !== 'GET' || NO_TURN.test(request.url)) return handle(request, response);
  return new Promise((resolve, reject) => {
    const navigates =
      request.headers['sec-fetch-mode'] === 'navigate' && request.headers.rsc === undefined;
    // What a page only fetches ahead goes after everything that somebody waits for.
    const ahead = request.headers['next-router-prefetch'] !== undefined;
    const came = navigates ? cameAt(request) : Date.now() + (ahead ? AFTER_ALL_MS : 0);
    const done = () => {
      clearTimeout(says);
      if (queue.leave(turn)) resolve();
    };
    const turn = {
      came,
      wanted: () => !response.destroyed && !request.socket.destroyed,
      work: async () => {
        clearTimeout(says);
        if (came < Date.now() - SAYS_SO_MS && navigates)
          response.setHeader('set-cookie', `${PLACE}=; Path=/; Max-Age=0`);
        try {
          await handle(request, response);
          resolve();
        } catch (error) {
          reject(error);
          throw error;
        }
      },
    };
    const says = navigates
      ? setTimeout(() => {
          const before = queue.length;
          if (!queue.leave(turn)) return;
          response.writeHead(503, {
            'content-type': 'text/html; charset=utf-8',
            'cache-control': 'no-store',
            'retry-after': '1',
            'set-cookie': `${PLACE}=${came}; Path=/; Max-Age=120; SameSite=Strict; HttpOnly`,
          });
          response.end(waitingPage(before));
          resolve();
        }, SAYS_SO_MS)
      : undefined;
    response.once('close', done);
    queue.add(turn);
  });
}

const PRESSED = /^\/pressed\/([\w.-]+)$/;

/** Hands a request on to the app; who asks has been seen to. */
function pass(request, response) {
  last = Date.now();
  // Everything is being replaced: what would be written waits, and is sent again.
  const [, press] = PRESSED.exec(request.url) ?? [];
  if (isReplacing() && (request.method === 'POST' || press !== undefined)) {
    answerJson(response, 503, { problems: [desk.replacing] });
    return request.resume();
  }
  if (press !== undefined) {
    void desk.fate(press).then((state) => answerJson(response, 200, { state }));
    return;
  }
  const turned = desk.turned(request);
  if (turned) {
    answerJson(response, turned.status, { problems: turned.problems });
    return request.resume();
  }
  const act = request.method === 'POST' && request.headers['next-action'] !== undefined;
  const come = act ? actFits(request) : Promise.resolve(true);
  const answered = come.then((fits) =>
    fits ? inTurn(request, response) : refuse(request, response, 400, 'This is no act of a page.'),
  );
  desk.follow(request, answered, () => response.statusCode);
  answered.catch((error) => {
    process.stderr.write(`${error.stack}\n`);
    if (!response.headersSent) refuse(request, response, 500, 'A fault of the program.');
  });
}

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
  busy: isReplacing,
});
// Pages that manage phones run in this process and find it here.
globalThis.ashLan = lan;

// On a computer with several accounts; nothing of it is seen where there is one.
const key =
  process.env.ASH_KEYED === 'yes' ? new Key(keyIn(process.env.ASH_DATA), Number(port)) : null;
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
  if (mode !== 'dev')
    return socket.end('HTTP/1.1 400 Bad Request\r\nConnection: close\r\nContent-Length: 0\r\n\r\n');
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
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
  process.on(signal, () => {
    server.close();
    process.exit(0);
  });
