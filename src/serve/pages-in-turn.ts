/** Pages are made a few at a time; a visit that has to wait is told so, and comes again with its place kept. */

import type { IncomingMessage, ServerResponse } from 'node:http';
import { Queue, type Turn } from '../lan/queue';

type Handle = (request: IncomingMessage, response: ServerResponse) => Promise<void>;

/** Pages that are made at once: more only take longer, each of them. */
const MOST_PAGES = 4;
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
  ahead: number,
): string => `<!doctype html><html lang="en"><meta charset="utf-8"><meta http-equiv="refresh" content="0">
<title>Waiting · Ash Ladder</title><body style="font: 18px sans-serif; margin: 15vh auto; max-width: 30em; padding: 0 1em">
<p><b>Ash Ladder is busy.</b></p><p>${ahead === 1 ? 'One page is' : `${ahead} pages are`} made before this one; it comes as soon as it is its turn.</p>`;

/** When the one who asks came first. */
function cameAt({ headers }: IncomingMessage): number {
  const said = Number(new RegExp(`${PLACE}=(\\d{13})`).exec(headers.cookie ?? '')?.[1]);
  const now = Date.now();
  return said > now - LONGEST_PLACE_MS && said <= now ? said : now;
}

/** @returns a handler that answers when it is its turn; what nobody waits for any more is left */
export function pagesInTurn(handle: Handle): Handle {
  const queue = new Queue(MOST_PAGES);
  return (request, response) => {
    if (request.method !== 'GET' || NO_TURN.test(request.url ?? '/'))
      return handle(request, response);
    return new Promise((resolve, reject) => {
      const navigates =
        request.headers['sec-fetch-mode'] === 'navigate' && request.headers.rsc === undefined;
      // What a page only fetches ahead goes after everything that somebody waits for.
      const ahead = request.headers['next-router-prefetch'] !== undefined;
      const came = navigates ? cameAt(request) : Date.now() + (ahead ? AFTER_ALL_MS : 0);
      const turn: Turn = {
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
      const saySo = () => {
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
      };
      const says = navigates ? setTimeout(saySo, SAYS_SO_MS) : undefined;
      response.once('close', () => {
        clearTimeout(says);
        if (queue.leave(turn)) resolve();
      });
      queue.add(turn);
    });
  };
}
