/** The policy of pages: they cannot be framed and run nothing but their own scripts. Who is let in, src/serve/door.ts says. */

import { NextResponse, type NextRequest } from 'next/server';

/** Pages alone: what is sent to routes passes without being held twice. */
export const config = {
  matcher: [
    '/((?!_next/|icon\\.svg|kept|adopt|understudy|everything|live|benches/|join/|files/|prints/|photos/|readings/|ladders/).*)',
    '/_next/static/chunks/:path*',
  ],
};

/** Scripts of a page carry a nonce that changes with every request; styles are set by scripts and attributes. */
export function proxy(request: NextRequest): NextResponse {
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
  response.headers.set('content-security-policy', policy);
  return response;
}
