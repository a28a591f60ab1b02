import { createServer, get, type IncomingHttpHeaders, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { pagesInTurn } from './pages-in-turn';

const VISIT = { 'sec-fetch-mode': 'navigate' };
let server: Server;
let address: string;
/** Pages that are being made, in the order in which they were begun, and how each is let go. */
let begun: string[];
let letGo: Map<string, () => void>;

beforeEach(async () => {
  begun = [];
  letGo = new Map();
  const inTurn = pagesInTurn(async ({ url = '' }, response) => {
    begun.push(url);
    if (url.startsWith('/bench')) await new Promise<void>((go) => letGo.set(url, go));
    response.end(url);
  });
  server = createServer((request, response) => void inTurn(request, response));
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterEach(async () => {
  for (const go of letGo.values()) go();
  await Promise.all(open.splice(0));
  server.closeAllConnections();
  server.close();
});

const until = async (holds: () => boolean) => {
  while (!holds()) await new Promise((resolve) => setTimeout(resolve, 5));
};
const open: Promise<unknown>[] = [];
type Answer = { status: number; text: string; headers: IncomingHttpHeaders };
/** As a browser asks: `fetch` says by itself in what mode it does. */
function ask(path: string, headers = {}): Promise<Answer> {
  const answered = new Promise<Answer>((resolve, reject) => {
    get(address + path, { headers, agent: false }, (got) => {
      let text = '';
      got.on('data', (piece) => (text += String(piece)));
      got.on('end', () => resolve({ status: got.statusCode!, text, headers: got.headers }));
    }).on('error', reject);
  });
  open.push(answered);
  return answered;
}
/** Four pages under way: all turns are taken. */
async function full(): Promise<{ first: Promise<Answer> }> {
  const [first] = [1, 2, 3, 4].map((n) => ask(`/bench/${n}`));
  await until(() => begun.length === 4);
  return { first: first! };
}

test('four pages are made at once, the next when one is done; bytes and acts take no turn', async () => {
  const { first } = await full();
  const fifth = ask('/things');
  expect((await ask('/photos/3')).text).toBe('/photos/3');
  expect((await fetch(`${address}/phones`, { method: 'POST' })).status).toBe(200);
  expect(begun).not.toContain('/things');
  letGo.get('/bench/1')!();
  expect((await fifth).text).toBe('/things');
  expect((await first).status).toBe(200);
});

test('a visit that waits long is told so, and comes again before those that came after it', async () => {
  await full();
  const told = await ask('/inspect', VISIT);
  expect(told.status).toBe(503);
  expect(told.text).toContain('Ash Ladder is busy.');
  const cookie = told.headers['set-cookie']![0]!.split(';')[0]!;
  expect(cookie).toMatch(/^ash_came=\d{13}$/);
  const later = ask('/archive');
  const again = ask('/inspect', { ...VISIT, cookie });
  // Both are waiting before a turn is free.
  await new Promise((resolve) => setTimeout(resolve, 100));
  letGo.get('/bench/1')!();
  const answer = await again;
  expect([answer.status, answer.headers['set-cookie']]).toEqual([
    200,
    [expect.stringContaining('Max-Age=0')],
  ]);
  await later;
  expect(begun.slice(4)).toEqual(['/inspect', '/archive']);
});

test('what is fetched ahead goes after what somebody waits for; what nobody waits for is not begun', async () => {
  await full();
  const ahead = ask('/archive', { 'next-router-prefetch': '1' });
  const leaves = new AbortController();
  const left = fetch(`${address}/phones`, { signal: leaves.signal }).catch(() => null);
  const wanted = ask('/things');
  await new Promise((resolve) => setTimeout(resolve, 100));
  leaves.abort();
  expect(await left).toBeNull();
  await new Promise((resolve) => setTimeout(resolve, 100));
  letGo.get('/bench/1')!();
  await Promise.all([ahead, wanted]);
  expect(begun.slice(4)).toEqual(['/things', '/archive']);
});
