/**
 * `npm run door`: tries to get in through the door of phones without being let in, against the running program: wrong,
 * used and outlived codes (it waits the two minutes), old and foreign cookies, other hosts and origins, other sites,
 * frames. Each must get the same plain answer. Before that it is seen that nothing listens beyond loopback's own
 * address while phones are not switched on. Prints its count.
 */

import { execFileSync } from 'node:child_process';
import { randomBytes, randomInt } from 'node:crypto';
import { COOKIE } from '../src/lan/lan';
import { CODE_LASTS_MS } from '../src/lan/pairing';
import { sendTo, withCode, type Answer, type Try } from '../src/lan/testing';
import { LAN, newCode, startTrying } from './phone-parts';

const PORT = 4796;
const HOST = `${LAN}:${PORT}`;
const TRIES = 200;

const send = (one: Try): Promise<Answer> => sendTo(HOST, one);
const form = (code: string): Try => withCode(HOST, code);

/** Addresses at this port that anything listens on. */
const listening = (): string[] =>
  execFileSync('ss', ['-ltnH'], { encoding: 'utf8' })
    .split('\n')
    .map((line) => line.trim().split(/\s+/)[3] ?? '')
    .filter((address) => address.endsWith(`:${PORT}`));

const faults: string[] = [];
const see = (right: boolean, what: string): void => {
  process.stdout.write(`${right ? 'yes' : 'NO'}  ${what}\n`);
  if (!right) faults.push(what);
};

process.env.ASH_LAN = LAN;
const { server, browser, computer } = await startTrying(PORT, []);
try {
  see(
    listening().every((address) => address === `127.0.0.1:${PORT}`),
    `before it is switched on, ss shows ${listening().join(', ')} alone`,
  );
  await computer.getByRole('button', { name: 'Switch on' }).click();
  const first = await newCode(computer);
  see(listening().includes(HOST), `after it, ss shows ${listening().sort().join(', ')}`);

  const entered = await send(form(first));
  const cookie = String(entered.headers['set-cookie']).split(';')[0]!;
  see(entered.status === 303, 'a code lets a device in');
  see((await send({ path: '/bench/1', headers: { cookie } })).status === 200, 'and it looks about');

  const plain = await send({});
  const tries: [string, Try][] = [];
  const add = (kind: string, made: () => Try, times: number) => {
    for (let i = 0; i < times; i++) tries.push([kind, made()]);
  };
  const inside = [
    '/',
    '/bench/1',
    '/ladder/1/read',
    '/everything',
    '/files/1',
    '/live',
    '/phones',
    '/readings/1',
    '/photos/1',
    '/_next/static/x.js',
  ];
  const anywhere = () => inside[randomInt(inside.length)]!;
  const cookieHeader = (value: string) => ({ cookie: `${COOKIE}=${value}` });
  const evil = 'http://elsewhere.example';
  add('no cookie', () => ({ path: anywhere() }), 20);
  add(
    'a guessed cookie',
    () => ({ path: anywhere(), headers: cookieHeader(randomBytes(32).toString('base64url')) }),
    20,
  );
  add(
    'a cookie that almost fits',
    () => ({
      path: anywhere(),
      headers: { cookie: cookie.slice(0, -1) + (cookie.endsWith('A') ? 'B' : 'A') },
    }),
    10,
  );
  add(
    'a cookie of another name',
    () => ({ path: anywhere(), headers: { cookie: `x${cookie}` } }),
    10,
  );
  add(
    'an act without a cookie',
    () => ({
      path: '/readings/1',
      method: 'POST',
      body: '{"acts":[]}',
      headers: { 'content-type': 'application/json', origin: `http://${HOST}` },
    }),
    10,
  );
  add(
    'another host (rebinding)',
    () => ({ path: anywhere(), headers: { cookie, host: `elsewhere.example:${PORT}` } }),
    15,
  );
  add(
    'another address of this computer as host',
    () => ({ path: anywhere(), headers: { cookie, host: `127.0.0.1:${PORT}` } }),
    10,
  );
  add('no host', () => ({ path: anywhere(), headers: { cookie, host: '' } }), 5);
  add(
    'another origin',
    () => ({
      path: '/readings/1',
      method: 'POST',
      body: '{"acts":[]}',
      headers: { cookie, origin: evil, 'content-type': 'application/json' },
    }),
    15,
  );
  add(
    'an origin of nowhere',
    () => ({
      path: '/readings/1',
      method: 'POST',
      body: '{}',
      headers: { cookie, origin: 'null' },
    }),
    5,
  );
  add(
    'asked for by another site',
    () => ({
      path: anywhere(),
      headers: {
        cookie,
        'sec-fetch-site': 'cross-site',
        'sec-fetch-mode': 'cors',
        'sec-fetch-dest': 'empty',
      },
    }),
    15,
  );
  add(
    'in a frame of another site',
    () => ({
      path: anywhere(),
      headers: {
        cookie,
        'sec-fetch-site': 'cross-site',
        'sec-fetch-mode': 'navigate',
        'sec-fetch-dest': 'iframe',
      },
    }),
    15,
  );
  add('the code a second time', () => form(first), 10);
  add(
    'the word of the door, made up',
    () => ({ path: anywhere(), headers: { 'x-ash-device': '1.0123456789abcdef' } }),
    10,
  );
  add(
    'another method',
    () => ({ path: anywhere(), method: ['PUT', 'DELETE', 'OPTIONS', 'PATCH'][randomInt(4)]! }),
    10,
  );
  const kinds = new Map<string, number>();
  const same = (answer: Answer) =>
    answer.status === 403 &&
    answer.body === plain.body &&
    answer.headers['set-cookie'] === undefined;
  let done = 0;
  const attempt = async (kind: string, made: Try) => {
    const answer = await send(made).catch((error: Error) => ({
      status: 0,
      headers: {},
      body: error.message,
    }));
    done++;
    kinds.set(kind, (kinds.get(kind) ?? 0) + 1);
    if (!same(answer)) faults.push(`${kind}: ${answer.status} ${answer.body.slice(0, 80)}`);
  };
  for (const [kind, made] of tries) await attempt(kind, made);

  // Codes: one that is out, tried with wrong digits until pairing closes; then the right one does not help either.
  const second = await newCode(computer);
  for (let i = 0; i < 10; i++)
    await attempt('a wrong code', form(String((Number(second) + 1 + i) % 1e6).padStart(6, '0')));
  await attempt('the right code after ten wrong ones', form(second));

  // A device that was put out.
  await computer.reload();
  await computer.getByRole('button', { name: /^Put out/ }).click();
  await computer.getByText('No device has been let in yet.').waitFor();
  while (done < TRIES - 1)
    await attempt('the cookie of a device that was put out', {
      path: anywhere(),
      headers: { cookie },
    });

  process.stdout.write(
    'waiting until pairing opens again, and then for two minutes, for a code to grow old …\n',
  );
  const old = await again();
  await new Promise((resolve) => setTimeout(resolve, CODE_LASTS_MS + 1000));
  await attempt('a code after two minutes', form(old));

  for (const [kind, times] of kinds)
    process.stdout.write(`${String(times).padStart(4)}  ${kind}\n`);
  see(done >= TRIES && faults.length === 0, `${done} tries, each with the same plain answer`);
} finally {
  await browser.close();
  await server.stop();
}
process.stdout.write(faults.map((one) => `FAULT ${one}\n`).join(''));
process.exit(faults.length === 0 ? 0 : 1);

/** A code once pairing is open again. */
async function again(): Promise<string> {
  for (;;) {
    await computer.reload();
    if (await computer.getByRole('button', { name: 'Show a code' }).isVisible())
      return newCode(computer);
    await computer.waitForTimeout(5000);
  }
}
