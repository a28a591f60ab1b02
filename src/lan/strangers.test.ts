import { EventEmitter } from 'node:events';
import type { IncomingMessage, ServerResponse } from 'node:http';
import type { Socket } from 'node:net';
import { accountsIn, Key } from './key';
import { Queue, type Turn } from './queue';
import { Strangers } from './strangers';

class Fake extends EventEmitter {
  silent: (() => void) | null = null;
  gone = false;
  constructor(readonly remoteAddress: string) {
    super();
  }
  setTimeout(ms: number, then?: () => void) {
    this.silent = ms === 0 ? null : (then ?? null);
  }
  destroy() {
    this.gone = true;
    this.emit('close');
  }
}
const from = (address: string) => new Fake(address) as unknown as Socket & Fake;

test('silent connections keep nobody out: few of one address, few over all, none for long', () => {
  const strangers = new Strangers({ most: 6, ofOne: 3, silentMs: 10 });
  const crowd = Array.from({ length: 20 }, () => from('10.0.0.66'));
  crowd.forEach((one) => strangers.meet(one));
  expect(strangers.count).toBe(3);
  const phone = from('10.0.0.7');
  strangers.meet(phone);
  strangers.known(phone);
  // Of many addresses at once the longest silent makes room.
  for (let i = 0; i < 30; i++) strangers.meet(from(`10.0.1.${i}`));
  expect(strangers.count).toBe(6);
  expect(phone.gone).toBe(false);
  expect(phone.silent).toBeNull();
  const late = from('10.0.2.1');
  strangers.meet(late);
  late.silent!();
  expect(late.gone).toBe(true);
});

/** Something that waits for a turn; `end` answers it. */
function turn(came: number, begun: number[], wanted = true) {
  let end = () => {};
  const made: Turn = {
    came,
    wanted: () => wanted,
    work: () => {
      begun.push(came);
      return new Promise((resolve) => (end = resolve));
    },
  };
  return { made, end: () => end() };
}
const soon = () => new Promise((resolve) => setImmediate(resolve));

test('whoever came first goes first, who comes again keeps the place, and who left is not served', async () => {
  const queue = new Queue(2);
  const begun: number[] = [];
  const [a, b, c, d, e] = [1, 2, 3, 4, 5].map((came) => turn(came, begun, came !== 4));
  for (const one of [a!, b!, d!, e!]) queue.add(one.made);
  // It was told to wait, and is here again.
  queue.add(c!.made);
  expect(begun).toEqual([1, 2]);
  a!.end();
  await soon();
  expect(begun).toEqual([1, 2, 3]);
  b!.end();
  await soon();
  expect(begun).toEqual([1, 2, 3, 5]);
  expect(queue.leave(e!.made)).toBe(false);
  const last = turn(6, begun);
  queue.add(last.made);
  expect(queue.leave(last.made)).toBe(true);
  c!.end();
  e!.end();
  await soon();
  expect(begun).toEqual([1, 2, 3, 5]);
});

test('with a key nobody comes in without it; what is no address is refused, not fallen over', () => {
  const key = new Key('k'.repeat(32), 4710);
  const asked = (url: string, cookie = '') => {
    const told: { status?: number; location?: unknown } = {};
    const response = {
      writeHead: (status: number, headers: Record<string, unknown>) =>
        Object.assign(told, { status, location: headers.location }),
      end: () => undefined,
    };
    const request = { method: 'GET', url, headers: { cookie } };
    const answered = key.answers(request as IncomingMessage, response as unknown as ServerResponse);
    return answered ? told : 'in';
  };
  const right = `key=${'k'.repeat(32)}`;
  expect(asked('/', `other=1; ash_key_4710=${'k'.repeat(32)}`)).toBe('in');
  for (const url of ['/', '//', '/%', '/?key=short', `/?key=${'x'.repeat(32)}`])
    expect(asked(url)).toMatchObject({ status: 403 });
  expect(asked(`/bench/1?${right}&a=2`)).toEqual({ status: 303, location: '/bench/1?a=2' });
  // Never to another host.
  expect(asked(`//elsewhere.example/x?${right}`)).toMatchObject({
    location: '/elsewhere.example/x',
  });
});

test('accounts of people are those that can log in', () => {
  const passwd = [
    'root:x:0:0:root:/root:/bin/bash',
    'daemon:x:1:1::/usr/sbin:/usr/sbin/nologin',
    'ines:x:1000:1000::/home/ines:/bin/bash',
    'print:x:1001:1001::/srv/print:/usr/sbin/nologin',
    'nobody:x:65534:65534::/nonexistent:/usr/sbin/nologin',
    '',
  ];
  expect(accountsIn(passwd.join('\n'))).toBe(1);
  expect(accountsIn([...passwd, 'mara:x:1002:1002::/home/mara:/bin/zsh'].join('\n'))).toBe(2);
});
