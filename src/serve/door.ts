/**
 * The door of the server: who is answered at all, and what is refused before a byte of its body is read. Behind it,
 * pages get their policy from src/proxy.ts.
 */

import type { IncomingHttpHeaders, IncomingMessage } from 'node:http';

const OWN_NAMES = new Set(['127.0.0.1', 'localhost', '[::1]']);
const MB = 2 ** 20;

/** Largest body of each address, bytes; acts of pages are small. */
const LARGEST: [RegExp, number][] = [
  [/^\/prints\/\d+\/photos$/, 31 * MB],
  [/^\/kept$/, 201 * MB],
  [/^\/adopt$/, 201 * MB],
  [/^\/understudy$/, 21 * MB],
  // As large as the disk: it is asked for room before it comes in.
  [/^\/everything$/, 2 ** 50],
];
const LARGEST_ACT = MB;
const ROUTES =
  /^\/(readings\/\d+|prints\/\d+\/photos|ladders\/\d+\/spec|files\/\d+\/run|kept|adopt|understudy|everything)$/;
const METHODS = new Set(['GET', 'HEAD', 'POST']);
/** Name of an act of a page, as the build gives them. */
const ACTION = /^[0-9a-f]{40,42}$/;

export const HEADERS = {
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'no-referrer',
  'x-frame-options': 'DENY',
  'cross-origin-opener-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin',
};

/** A status and a sentence. */
export type Refusal = [number, string];

/** Host part of `host:port`, lower case. */
const nameOf = (host: string): string => host.toLowerCase().replace(/:\d+$/, '');

/** A page that is opened in a window of its own, not in a frame of somebody else's. */
const isVisit = ({ method, headers }: IncomingMessage): boolean =>
  method === 'GET' &&
  headers['sec-fetch-mode'] === 'navigate' &&
  headers['sec-fetch-dest'] === 'document';

/**
 * Why a request is refused, as a status and a sentence; null when it may come in.
 *
 * @param isOwn whether a host, as `name:port`, is one of the server's own
 */
export function refusal(
  request: IncomingMessage,
  isOwn = (host: string): boolean => OWN_NAMES.has(nameOf(host)),
): Refusal | null {
  const { method = '', headers, url = '/' } = request;
  const { host = '', origin } = headers;
  const site = headers['sec-fetch-site'];
  const ownOrigin = origin === undefined || origin === `http://${host}`;
  // A link from elsewhere may be followed; anything else that another site asks for is refused.
  const ownSite =
    site === undefined || site === 'same-origin' || site === 'none' || isVisit(request);
  if (!isOwn(host) || !ownOrigin || !ownSite)
    return [
      403,
      'This address answers only to pages of its own. Open it by the address that it printed when it started.',
    ];
  if (!METHODS.has(method)) return [405, 'Only GET and POST are answered here.'];
  const [path = ''] = url.split('?');
  try {
    decodeURIComponent(path);
  } catch {
    return [400, 'This address is broken: a percent sign in it has no code.'];
  }
  return method === 'POST' ? refusedBody(headers, path) : null;
}

function refusedBody(headers: IncomingHttpHeaders, path: string): Refusal | null {
  const size = headers['content-length'];
  if (size === undefined || !/^\d{1,15}$/.test(size))
    return [411, 'Say how large the body is (content-length).'];
  const act = headers['next-action'];
  const most = act === undefined ? LARGEST.find(([door]) => door.test(path))?.[1] : undefined;
  if (Number(size) > (most ?? LARGEST_ACT))
    return [
      413,
      `The body has over ${Math.round((most ?? LARGEST_ACT) / MB)} MB, more than is taken here.`,
    ];
  if (act === undefined ? !ROUTES.test(path) : !ACTION.test(String(act)))
    return [400, 'Nothing is taken at this address.'];
  return null;
}

/** Longest that the body of an act may take to arrive, ms. */
const LONGEST_MS = 20_000;

/**
 * Looks at the body of an act of a page and puts it back: what is neither a list of arguments nor a form is refused,
 * since the framework behind would take it for a fault of its own. @returns whether it may come in
 */
export async function actFits(request: IncomingMessage): Promise<boolean> {
  const size = Number(request.headers['content-length']);
  const body = await wholeBody(request, size);
  if (body === null) return false;
  request.unshift(body);
  const type = request.headers['content-type'] ?? '';
  if (type.startsWith('multipart/form-data')) {
    const [, boundary] = /boundary="?([^";]+)/.exec(type) ?? [];
    const text = body.toString('latin1');
    return (
      boundary !== undefined &&
      text.startsWith(`--${boundary}\r\n`) &&
      text.trimEnd().endsWith(`--${boundary}--`) &&
      /name="0"/.test(text)
    );
  }
  try {
    return Array.isArray(JSON.parse(body.toString('utf8')));
  } catch {
    return false;
  }
}

function wholeBody(request: IncomingMessage, size: number): Promise<Buffer | null> {
  if (size === 0) return Promise.resolve(null);
  return new Promise((resolve) => {
    const pieces: Buffer[] = [];
    let length = 0;
    const done = (body: Buffer | null): void => {
      clearTimeout(timer);
      request.off('readable', read);
      request.off('close', lost);
      resolve(body);
    };
    const next = () => request.read() as Buffer | null;
    const lost = () => done(null);
    const timer = setTimeout(lost, LONGEST_MS);
    const read = () => {
      for (let piece = next(); piece !== null; piece = next()) {
        pieces.push(piece);
        length += piece.length;
        // Not beyond it: a stream that has ended takes nothing back.
        if (length >= size) return done(Buffer.concat(pieces));
      }
    };
    request.on('readable', read);
    request.on('close', lost);
  });
}
