/** Answers only to its own names: a page elsewhere cannot drive a program that sends files to heated machines. */

import { NextResponse, type NextRequest } from 'next/server';

const OWN_NAMES = new Set(['127.0.0.1', 'localhost', '[::1]']);

/** Host part of `host:port`, lower case. */
const nameOf = (host: string): string => host.toLowerCase().replace(/:\d+$/, '');

export function proxy(request: NextRequest): NextResponse {
  const host = request.headers.get('host') ?? '';
  const origin = request.headers.get('origin');
  const site = request.headers.get('sec-fetch-site');
  const ownHost = OWN_NAMES.has(nameOf(host));
  const ownOrigin = origin === null || origin === `http://${host}`;
  // A link from elsewhere may be followed; anything else that another site asks for is refused.
  const ownSite = site !== 'cross-site' || isVisit(request);
  if (ownHost && ownOrigin && ownSite) return NextResponse.next();
  return new NextResponse(
    'This address answers only to pages of its own. Open it by the address that it printed when it started.\n',
    { status: 403, headers: { 'content-type': 'text/plain; charset=utf-8' } },
  );
}

const isVisit = ({ method, headers }: NextRequest): boolean =>
  method === 'GET' && headers.get('sec-fetch-mode') === 'navigate';
