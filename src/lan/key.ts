/**
 * On a computer with several accounts any of them could reach the server's address: there the first visit brings a key,
 * which the command prints, and a cookie remembers it.
 */

import { randomBytes, timingSafeEqual } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { join } from 'node:path';

/** Accounts of people begin here, and end there (Debian's adduser). */
const [FIRST_UID, LAST_UID] = [1000, 59_999];
const LASTS_S = 400 * 86_400;

/** How many accounts can log in, by the lines of `/etc/passwd`. */
export const accountsIn = (passwd: string): number =>
  passwd.split('\n').filter((line) => {
    const [, , uid = '', , , , shell = ''] = line.split(':');
    const is = Number(uid);
    return uid !== '' && is >= FIRST_UID && is <= LAST_UID && !/(nologin|false)$/.test(shell);
  }).length;

/** The key of a data folder, made once. */
export function keyIn(folder: string): string {
  const path = join(folder, 'key');
  if (!existsSync(path)) writeFileSync(path, randomBytes(16).toString('hex'), { mode: 0o600 });
  return readFileSync(path, 'utf8').trim();
}

const same = (a: string, b: string): boolean =>
  a.length === b.length && timingSafeEqual(Buffer.from(a), Buffer.from(b));

/** What is done with a request: let in, sent on with the cookie, or refused. */
export class Key {
  private readonly cookie: string;

  /** Cookies are shared by all ports of an address: its name has the port. */
  constructor(
    private readonly key: string,
    port: number,
  ) {
    this.cookie = `ash_key_${port}`;
  }

  /** @returns whether it was answered here */
  answers(request: IncomingMessage, response: ServerResponse): boolean {
    const said = (request.headers.cookie ?? '')
      .split(/;\s*/)
      .find((one) => one.startsWith(`${this.cookie}=`))
      ?.slice(this.cookie.length + 1);
    if (said !== undefined && same(said, this.key)) return false;
    // Taken apart by hand: what is no address at all, such as “//”, is nothing to fall over.
    const [path = '/', query = ''] = (request.url ?? '/').split('?');
    const asked = new URLSearchParams(query);
    const told = asked.get('key');
    if (request.method === 'GET' && told !== null && same(told, this.key)) {
      asked.delete('key');
      // Of this address alone: “//elsewhere” would be another one.
      const own = path.replace(/^[/\\]+/, '/');
      response.writeHead(303, {
        location: asked.size > 0 ? `${own}?${asked}` : own,
        'set-cookie': `${this.cookie}=${this.key}; Path=/; HttpOnly; SameSite=Strict; Max-Age=${LASTS_S}`,
        'cache-control': 'no-store',
      });
      response.end();
      return true;
    }
    response.writeHead(403, { 'content-type': 'text/plain; charset=utf-8', connection: 'close' });
    response.end(
      'This computer has several accounts: open the address that npm start printed, with its key, once.\n',
    );
    return true;
  }
}
