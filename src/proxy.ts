/**
 * The door: answers only to its own names and pages, cannot be framed, lets pages run nothing but their own scripts,
 * and refuses what is too large or broken before it is read.
 */

import { NextResponse, type NextRequest } from 'next/server';

const OWN_NAMES = new Set(['127.0.0.1', 'localhost', '[::1]']);
const MB = 2 ** 20;

/** Largest body of each door, bytes; acts of pages are small. */
const LARGEST: [path: RegExp, bytes: number][] = [
  [/^\/kept$/, 201 * MB],
  [/^\/adopt$/, 50 * MB],
  [/^\/understudy$/, 21 * MB],
  [/^\/everything$/, 4096 * MB],
];
const LARGEST_ACT = MB;

/** Host part of `host:port`, lower case. */
const nameOf = (host: string): string => host.toLowerCase().replace(/:\d+$/, '');

export function proxy(request: NextRequest): NextResponse {
  const host = request.headers.get('host') ?? '';
  const origin = request.headers.get('origin');
  const site = request.headers.get('sec-fetch-site');
  const ownHost = OWN_NAMES.has(nameOf(host));
  const ownOrigin = origin === null || origin === `http://${host}`;
  // A link from elsewhere may be followed; anything else that another site asks for is refused.
  const ownSite = site === null || site === 'same-origin' || site === 'none' || isVisit(request);
  if (!ownHost || !ownOrigin || !ownSite)
    return refused(
      403,
      'This address answers only to pages of its own. Open it by the address that it printed when it started.',
    );
  const broken = brokenRequest(request);
  if (broken) return broken;
  return withPolicy(request);
}

/** A page that is opened in a window of its own, not in a frame of somebody else's. */
const isVisit = ({ method, headers }: NextRequest): boolean =>
  method === 'GET' &&
  headers.get('sec-fetch-mode') === 'navigate' &&
  headers.get('sec-fetch-dest') === 'document';

const METHODS = new Set(['GET', 'HEAD', 'POST']);
const ACTION = /^[0-9a-f]{40,42}$/;

function brokenRequest({ method, headers, nextUrl }: NextRequest): NextResponse | null {
  if (!METHODS.has(method)) return refused(405, 'Only GET and POST are answered here.');
  try {
    decodeURIComponent(nextUrl.pathname);
  } catch {
    return refused(400, 'This address is broken: a percent sign in it has no code.');
  }
  if (method !== 'POST') return null;
  const path = nextUrl.pathname;
  const size = headers.get('content-length');
  if (size === null || !/^\d{1,15}$/.test(size))
    return refused(411, 'Say how large the body is (content-length).');
  const most = LARGEST.find(([door]) => door.test(path))?.[1] ?? LARGEST_ACT;
  if (Number(size) > most)
    return refused(413, `The body has over ${Math.round(most / MB)} MB, more than is taken here.`);
  const act = headers.get('next-action');
  const door = /^\/(readings\/\d+|ladders\/\d+\/spec|kept|adopt|understudy|everything)$/.test(path);
  if (act === null ? !door : !ACTION.test(act))
    return refused(400, 'Nothing is taken at this address.');
  return null;
}

const refused = (status: number, text: string): NextResponse =>
  new NextResponse(`${text}\n`, {
    status,
    headers: { ...HEADERS, 'content-type': 'text/plain; charset=utf-8', connection: 'close' },
  });

const HEADERS = {
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'no-referrer',
  'x-frame-options': 'DENY',
  'cross-origin-opener-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin',
} as const;

/** Scripts of a page carry a nonce that changes with every request; styles are set by scripts and attributes. */
function withPolicy(request: NextRequest): NextResponse {
  const nonce = btoa(crypto.randomUUID());
  const dev = process.env.NODE_ENV === 'development';
  const policy = [
    `default-src 'self'`,
    `script-src 'self' 'nonce-${nonce}'${dev ? ` 'unsafe-eval'` : ''}`,
    `style-src 'self' 'unsafe-inline'`,
    `img-src 'self' blob: data:`,
    `font-src 'self'`,
    `connect-src 'self'`,
    `worker-src 'self' blob:`,
    `object-src 'none'`,
    `base-uri 'none'`,
    `form-action 'self'`,
    `frame-src 'none'`,
    `frame-ancestors 'none'`,
  ].join('; ');
  const headers = new Headers(request.headers);
  headers.set('content-security-policy', policy);
  headers.set('x-nonce', nonce);
  const response = NextResponse.next({ request: { headers } });
  for (const [name, value] of Object.entries(HEADERS)) response.headers.set(name, value);
  response.headers.set('content-security-policy', policy);
  return response;
}
