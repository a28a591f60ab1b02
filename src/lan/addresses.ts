/** Addresses of this computer at which a phone could find it. */

import type { NetworkInterfaceInfo } from 'node:os';

export type Address = {
  address: string;
  /** Name that the system gives to the connection, such as `wlan0`. */
  connection: string;
};

type Interfaces = NodeJS.Dict<NetworkInterfaceInfo[]>;

/** Connections between programs of this computer, and tunnels out of the house: no phone at home is on them. */
const INNER = /^(docker|veth|br-|virbr|vmnet|vboxnet|tun|tap|utun|wg|zt|tailscale)/;
const PRIVATE_V4 = /^(10\.|192\.168\.|172\.(1[6-9]|2\d|3[01])\.)/;
const UNIQUE_LOCAL_V6 = /^f[cd]/i;
const LINK_LOCAL_V6 = /^fe80/i;

/** The likeliest first: a home network's own addresses, then others; what is of no use to a phone is left out. */
export function phoneAddresses(interfaces: Interfaces): Address[] {
  const all = Object.entries(interfaces).flatMap(([connection, list = []]) =>
    (INNER.test(connection) ? [] : list)
      .filter(({ internal, address }) => !internal && !LINK_LOCAL_V6.test(address))
      .map(({ address }) => ({ address, connection })),
  );
  return all.sort((a, b) => rank(a) - rank(b) || (a.address < b.address ? -1 : 1));
}

function rank({ address }: Address): number {
  if (PRIVATE_V4.test(address)) return 0;
  if (!address.includes(':')) return 1;
  return UNIQUE_LOCAL_V6.test(address) ? 2 : 3;
}

/** `host:port` as a browser sends it, lower case; port 80 is not said. */
export const hostOf = (address: string, port: number): string => {
  const name = address.includes(':') ? `[${address.toLowerCase()}]` : address;
  return port === 80 ? name : `${name}:${port}`;
};
