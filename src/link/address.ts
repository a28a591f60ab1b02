/** Where a machine is found: `tcp:HOST:PORT` or `serial:PATH[@SPEED]`. */

import { fail, ok, problem, type Result } from '../core/result';

export type Address =
  | { by: 'tcp'; host: string; port: number }
  /** Without a speed, the usual ones are asked in turn. */
  | { by: 'serial'; path: string; speed?: number };

/** Speeds that machines usually talk at, the likeliest first, baud. */
export const USUAL_SPEEDS = [
  115_200, 250_000, 500_000, 1_000_000, 57_600, 38_400, 19_200, 9600,
] as const;
const SLOWEST = 300;
const FASTEST = 12_000_000;

export function parseAddress(text: string): Result<Address> {
  const refused = (what: string) =>
    fail(
      problem(
        'address',
        `“${text.slice(0, 100)}” is no address of a machine: ${what}.`,
        'Give tcp:HOST:PORT, such as tcp:192.168.1.20:23, or serial:PATH or serial:PATH@SPEED, such as serial:/dev/ttyUSB0@115200.',
      ),
    );
  const [, by, rest] = /^(tcp|serial):(.*)$/.exec(text.trim()) ?? [];
  if (by === 'tcp') {
    const [, host, digits] = /^(\[[0-9a-f:]+\]|[A-Za-z0-9.-]+):(\d{1,5})$/i.exec(rest!) ?? [];
    const port = Number(digits);
    if (!host) return refused('a host and a port were expected');
    if (!(port >= 1 && port <= 65_535)) return refused('a port is a number from 1 to 65535');
    return ok({ by, host: host.replace(/^\[|\]$/g, ''), port });
  }
  if (by === 'serial') {
    const [, path, digits] = /^([^@\0]+?)(?:@(\d+))?$/.exec(rest!) ?? [];
    if (!path?.startsWith('/')) return refused('a path such as /dev/ttyUSB0 was expected');
    if (digits === undefined) return ok({ by, path });
    const speed = Number(digits);
    if (!(speed >= SLOWEST && speed <= FASTEST))
      return refused(`a speed is a number from ${SLOWEST} to ${FASTEST}`);
    return ok({ by, path, speed });
  }
  return refused('it begins with neither tcp: nor serial:');
}

export function addressText(address: Address): string {
  if (address.by === 'tcp') {
    const host = address.host.includes(':') ? `[${address.host}]` : address.host;
    return `tcp:${host}:${address.port}`;
  }
  return `serial:${address.path}${address.speed === undefined ? '' : `@${address.speed}`}`;
}
