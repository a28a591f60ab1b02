import { mkdtempSync, rmSync } from 'node:fs';
import { createServer, request, type IncomingHttpHeaders, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Desk } from '../lan/desk';
import { passing } from './pass';

const folder = mkdtempSync(join(tmpdir(), 'ash-pass-'));
const ACT = 'a'.repeat(40);
const desk = new Desk(folder, 'src/store/migrations');
let replacing = false;
/** What the app does with a request that has come in. */
let app: () => Promise<void> = () => Promise.resolve();
let came = 0;
let server: Server;

beforeAll(async () => {
  const pass = passing({
    desk,
    isReplacing: () => replacing,
    answer: async (_, response) => {
      came++;
      await app();
      response.end('answered');
    },
  });
  server = createServer(pass);
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
});
beforeEach(() => {
  [replacing, came] = [false, 0];
  app = () => Promise.resolve();
});
afterAll(() => {
  server.close();
  rmSync(folder, { recursive: true, force: true });
});

type Answer = { status: number; text: string; headers: IncomingHttpHeaders };
function ask(method: string, path: string, headers = {}, body = ''): Promise<Answer> {
  const { port } = server.address() as AddressInfo;
  return new Promise((resolve, reject) => {
    const one = request({ port, host: '127.0.0.1', method, path, headers, agent: false }, (got) => {
      let text = '';
      got.on('data', (piece) => (text += String(piece)));
      got.on('end', () => resolve({ status: got.statusCode!, text, headers: got.headers }));
    });
    one.on('error', reject);
    one.end(body);
  });
}
const press = (name: string, body = '[1]', more = {}) =>
  ask(
    'POST',
    '/bench/1',
    { 'x-ash-press': name, 'next-action': ACT, 'content-length': body.length, ...more },
    body,
  );
const fateOf = async (name: string) =>
  (JSON.parse((await ask('GET', `/pressed/${name}`)).text) as { state: string }).state;

test('a press that comes in is done once, and what became of it can be asked', async () => {
  expect((await press('press-0001')).text).toBe('answered');
  expect((await press('press-0001')).status).toBe(409);
  expect([came, await fateOf('press-0001')]).toEqual([1, 'done']);
});

test('while everything is replaced nothing is begun: the press is free afterwards', async () => {
  replacing = true;
  const told = await press('press-0002');
  expect([told.status, told.text]).toEqual([503, expect.stringContaining('Wait a moment')]);
  expect((await ask('GET', '/pressed/press-0002')).status).toBe(503);
  expect((await ask('GET', '/bench/1')).text).toBe('answered');
  replacing = false;
  expect((await press('press-0002')).text).toBe('answered');
  expect([came, await fateOf('press-0002')]).toEqual([2, 'done']);
});

test('what was made with other data does not come in', async () => {
  const other = await press('press-0003', '[1]', { 'x-ash-store': 'another' });
  expect([other.status, came]).toEqual([409, 0]);
  expect(other.headers['x-ash-store']).toBe(desk.identity());
  expect((await press('press-0003', '[1]', { 'x-ash-store': desk.identity() })).status).toBe(200);
});

test('what is no act is refused before the app sees it; a fault of the app is said, and nobody knows how far it came', async () => {
  expect((await press('press-0004', '{"a":1}')).status).toBe(400);
  expect(came).toBe(0);
  const said = jest.spyOn(process.stderr, 'write').mockReturnValue(true);
  app = () => Promise.reject(new Error('thrown by the app'));
  expect((await press('press-0005')).status).toBe(500);
  expect(await fateOf('press-0005')).toBe('cut');
  expect(said).toHaveBeenCalledWith(expect.stringContaining('thrown by the app'));
  said.mockRestore();
});
