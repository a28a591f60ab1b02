import type { NetworkInterfaceInfo } from 'node:os';
import { hostOf, phoneAddresses } from './addresses';

const told = (address: string, internal = false): NetworkInterfaceInfo => ({
  address,
  internal,
  netmask: '',
  mac: '',
  cidr: null,
  ...(address.includes(':')
    ? { family: 'IPv6' as const, scopeid: 0 }
    : { family: 'IPv4' as const }),
});

test('the address of the home network comes first; loopback, link-local and inner ones are left out', () => {
  const addresses = phoneAddresses({
    lo: [told('127.0.0.1', true), told('::1', true)],
    docker0: [told('172.17.0.1')],
    wg0: [told('10.8.0.2')],
    eth0: [told('203.0.113.7'), told('2001:db8::7'), told('fe80::7'), told('fd00::7')],
    wlan0: [told('192.168.1.5')],
  });
  expect(addresses).toEqual([
    { address: '192.168.1.5', connection: 'wlan0' },
    { address: '203.0.113.7', connection: 'eth0' },
    { address: 'fd00::7', connection: 'eth0' },
    { address: '2001:db8::7', connection: 'eth0' },
  ]);
});

test('without a network there are none', () => {
  expect(phoneAddresses({ lo: [told('127.0.0.1', true)], eth0: undefined })).toEqual([]);
});

test('hosts are written as browsers send them', () => {
  expect(hostOf('192.168.1.5', 4710)).toBe('192.168.1.5:4710');
  expect(hostOf('FD00::7', 4710)).toBe('[fd00::7]:4710');
  expect(hostOf('192.168.1.5', 80)).toBe('192.168.1.5');
});
