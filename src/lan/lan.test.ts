import { mkdtempSync, rmSync } from 'node:fs';
import { request as ask, type IncomingMessage } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { COOKIE, Lan } from './lan';
import { CODE_LASTS_MS, MOST_WRONG } from './pairing';
import { sendTo, withCode, type Answer, type Try } from './testing';

// Each its own loopback address, so that tests of other files are not in the way.
const ADDRESS = '127.0.0.77';
const folder = mkdtempSync(join(tmpdir(), 'ash-lan-'));
const passed: (string | undefined)[] = [];
const open: IncomingMessage[] = [];

function made(): Lan {
  return new Lan({
    data: folder,
    migrations: join(process.cwd(), 'src/store/migrations'),
    port: 4890,
    address: ADDRESS,
    headers: { 'x-frame-options': 'DENY' },
    refusal: () => null,
    changed: () => undefined,
    pass: (request, response) => {
      passed.push(request.url);
      open.push(request);
      if (request.url === '/stays') return void response.writeHead(200).write('here');
      response.end('inside');
    },
  });
}

const lan = made();
let host = '';
beforeAll(async () => {
  const { at, problems } = await lan.switchOn(true);
  expect(problems).toEqual([]);
  host = at[0]!.host;
});
afterAll(async () => {
  await lan.switchOff();
  rmSync(folder, { recursive: true, force: true });
});

const send = (one: Try): Promise<Answer> => sendTo(host, one);
const pair = (code: string, headers: Record<string, string> = {}): Promise<Answer> =>
  send(withCode(host, code, headers));

const code = (): string => {
  const offer = lan.offer();
  if (!offer.ok) throw new Error(offer.problems[0]!.what);
  return offer.value.code;
};
const cookieIn = ({ headers }: Answer): string => headers['set-cookie']![0]!.split(';')[0]!;
const enter = async (): Promise<string> => cookieIn(await pair(code()));

/** The one answer to whoever may not come in. */
let shut: Answer;
beforeAll(async () => {
  shut = await send({});
});
function expectShut({ status, body, headers }: Answer): void {
  expect(status).toBe(403);
  expect(body).toBe(shut.body);
  expect(headers['set-cookie']).toBeUndefined();
  expect(headers['x-frame-options']).toBe('DENY');
}

test('a device with a code gets a cookie that no script and no other site can use, and comes in', async () => {
  const answer = await pair(code(), { referer: `http://${host}/ladder/1/read?reading=2` });
  expect(answer.status).toBe(303);
  expect(answer.headers.location).toBe('/ladder/1/read?reading=2');
  expect(answer.headers['set-cookie']![0]).toMatch(
    /; HttpOnly; SameSite=Strict; Path=\/; Max-Age=/,
  );
  const cookie = cookieIn(answer);
  expect(cookie.length).toBeGreaterThan(COOKIE.length + 40);
  expect((await send({ headers: { cookie } })).body).toBe('inside');
  const [device] = lan.state().devices;
  expect(device).toMatchObject({ name: 'Bench phone', reader: 'Ines', rights: [] });
  // The store holds no cookie, and the app is told which device asks by a value that no request can know.
  expect(JSON.stringify(lan.state())).not.toContain(cookie.split('=')[1]);
  const told = open.at(-1)!.headers[lan.deviceHeader] as string;
  expect(lan.device(told)?.id).toBe(device!.id);
  expect(lan.device(null)).toBeNull();
  expect(() => lan.device(`${device!.id}.guess`)).toThrow();
  await send({ headers: { cookie, [lan.deviceHeader]: '999.x' } });
  expect(lan.device(open.at(-1)!.headers[lan.deviceHeader] as string)?.id).toBe(device!.id);
});

test('200 tries to get in without a code all get the same plain answer', async () => {
  const good = await enter();
  const out = await enter();
  const outId = Math.max(...lan.state().devices.map((one) => one.id));
  expect(lan.putOut(outId)).toBe(true);
  const used = code();
  expect((await pair(used)).status).toBe(303);
  const old = code();
  const later = jest.spyOn(Date, 'now').mockReturnValue(Date.now() + CODE_LASTS_MS);
  const over = await pair(old);
  later.mockRestore();
  expectShut(over);
  const before = passed.length;
  const token = good.split('=')[1]!;
  const tries: Try[] = [
    // Addresses of all kinds, with nothing in hand.
    ...[
      '/',
      '/bench/1',
      '/things',
      '/everything',
      '/files/1',
      '/_next/static/x.js',
      '/live',
      '/phones',
      '//pair',
      '/pair/',
      '/PAIR',
      '/%70air/..',
      '/icon.svg',
      '/manifest.webmanifest',
    ].map((path) => ({ path })),
    ...['POST', 'PUT', 'DELETE', 'PATCH', 'OPTIONS', 'TRACE'].flatMap((method) =>
      ['/', '/readings/1', '/pair'].map((path) => ({
        path,
        method,
        headers: { 'content-length': '0' },
      })),
    ),
    // Cookies: put out, made up, of another server, doubled, cut short, of other names.
    ...[
      out,
      `${COOKIE}=${'A'.repeat(43)}`,
      `${COOKIE}=${token.slice(0, -1)}`,
      `${COOKIE}=${token}x`,
      `${COOKIE}=${token.toLowerCase()}`,
      `${COOKIE}=`,
      `other=${token}`,
      `${good}; ${COOKIE}=${'B'.repeat(43)}`,
      `${COOKIE}="${token}"`,
      `${COOKIE}=' or 1=1 --`,
    ].flatMap((cookie) =>
      ['/', '/bench/1', '/readings/1'].map((path) => ({ path, headers: { cookie } })),
    ),
    // Names that are not its own, with a good cookie: rebinding.
    ...[
      'elsewhere.example',
      'localhost:4890',
      '127.0.0.1:4890',
      `${ADDRESS}`,
      `${ADDRESS}:1`,
      `${host}.elsewhere.example`,
      `x@${host}`,
      '',
    ].flatMap((name) =>
      ['/', '/pair'].map((path) => ({ path, headers: { host: name, cookie: good } })),
    ),
    // Other sites, with a good cookie.
    ...[
      'http://elsewhere.example',
      'null',
      `https://${host}`,
      `http://${ADDRESS}:1`,
      'http://localhost:4890',
    ].flatMap((origin) =>
      ['GET', 'POST'].map((method) => ({
        method,
        headers: { origin, cookie: good, 'content-length': '0' },
      })),
    ),
    ...['cross-site', 'same-site'].flatMap((site) =>
      ['navigate', 'cors', 'no-cors', 'websocket'].flatMap((mode) =>
        ['document', 'iframe', 'script', 'image'].map((dest) => ({
          headers: {
            'sec-fetch-site': site,
            'sec-fetch-mode': mode,
            'sec-fetch-dest': dest,
            cookie: good,
          },
        })),
      ),
    ),
  ];
  for (const one of tries) expectShut(await send(one));
  // Codes: used, over, of the wrong shape, and guesses, until pairing closes.
  const right = code();
  const wrong = [
    used,
    old,
    '',
    '0',
    '000000',
    right.slice(1),
    `${right}1`,
    'abcdef',
    '%00',
    '-1',
  ].filter((one) => one !== right);
  for (const one of wrong.slice(0, MOST_WRONG)) expectShut(await pair(one));
  expectShut(await pair(right));
  expect(lan.offer().ok).toBe(false);
  expect(lan.state().closedUntil).toBeGreaterThan(Date.now());
  const guesses = Array.from({ length: 80 }, (_, i) => String(i * 16_661).padStart(6, '0'));
  for (const one of guesses) expectShut(await pair(one));
  expectShut(await pair(right, { origin: 'http://elsewhere.example' }));
  expectShut(await pair(right, { 'content-type': 'application/json' }));
  expectShut(await pair(right, { 'content-length': '3' }));
  expect(tries.length + wrong.length + guesses.length + 4).toBeGreaterThan(200);
  expect(passed.length).toBe(before);
  // The one that was let in still is.
  expect((await send({ headers: { cookie: good } })).body).toBe('inside');
  const much = jest.spyOn(Date, 'now').mockReturnValue(lan.state().closedUntil!);
  expect(lan.offer().ok).toBe(true);
  much.mockRestore();
});

test('a device that is put out loses what it has open at once', async () => {
  lan.withdraw();
  const much = jest.spyOn(Date, 'now').mockReturnValue(Date.now() + 1e7);
  const cookie = await enter();
  much.mockRestore();
  const newest = Math.max(...lan.state().devices.map(({ id }) => id));
  const [address, port] = host.split(':');
  const ended = new Promise<string>((resolve) => {
    ask({ host: address, port, path: '/stays', headers: { host, cookie } }, (response) => {
      response.once('data', () => lan.putOut(newest));
      response.once('error', () => resolve('cut'));
      response.once('end', () => resolve('ended'));
    }).end();
  });
  expect(await ended).toBe('cut');
  expectShut(await send({ headers: { cookie } }));
});

test('a code is prefilled only where it is one, and a cookie that stands is led inside', async () => {
  const page = await send({ path: '/pair?code=123456' });
  expect(page.status).toBe(200);
  expect(page.body).toContain('value="123456"');
  expect((await send({ path: '/pair?code=%22%3E%3Cscript%3E' })).body).not.toContain('script>');
  expect((await send({ path: '/pair?code=1234567' })).body).not.toContain('1234567');
  expect(page.headers['content-security-policy']).toContain(`default-src 'none'`);
  expect(page.headers['content-security-policy']).toContain(`frame-ancestors 'none'`);
});

test('switched off it answers nobody, and stays so; switched on it stays on', async () => {
  expect(lan.wasOn).toBe(true);
  await lan.switchOff();
  await expect(send({})).rejects.toThrow();
  expect(lan.wasOn).toBe(false);
  expect(lan.offer().ok).toBe(false);
  await lan.switchOn(true);
  expectShut(await send({}));
  expect(made().wasOn).toBe(true);
});

test('an address that this computer does not have is told', async () => {
  const other = new Lan({
    data: folder,
    migrations: join(process.cwd(), 'src/store/migrations'),
    port: 4890,
    address: '192.0.2.1',
    headers: {},
    refusal: () => null,
    changed: () => undefined,
    pass: () => undefined,
  });
  const { at, problems } = await other.switchOn(false);
  expect(at).toEqual([]);
  expect(problems[0]!.what).toContain('192.0.2.1');
  await other.switchOff();
});
