import { createServer, request, type IncomingMessage, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { actFits, refusal } from './door';

type Asked = { method?: string; url?: string; headers?: Record<string, string> };
const asked = ({ method = 'GET', url = '/', headers = {} }: Asked) =>
  ({ method, url, headers: { host: '127.0.0.1:4710', ...headers } }) as unknown as IncomingMessage;
const statusOf = (one: Asked) => refusal(asked(one))?.[0] ?? 200;
const ACT = 'a'.repeat(40);

test.each<[string, Asked, number]>([
  ['a page of its own', {}, 200],
  ['its other name', { headers: { host: 'localhost:4710' } }, 200],
  ['another name', { headers: { host: 'elsewhere.example' } }, 403],
  ['a page of another site', { headers: { origin: 'http://elsewhere.example' } }, 403],
  ['its own page', { headers: { origin: 'http://127.0.0.1:4710' } }, 200],
  ['a picture in another site', { headers: { 'sec-fetch-site': 'cross-site' } }, 403],
  [
    'a link that is followed from another site',
    {
      headers: {
        'sec-fetch-site': 'cross-site',
        'sec-fetch-mode': 'navigate',
        'sec-fetch-dest': 'document',
      },
    },
    200,
  ],
  [
    'a frame of another site',
    {
      headers: {
        'sec-fetch-site': 'cross-site',
        'sec-fetch-mode': 'navigate',
        'sec-fetch-dest': 'iframe',
      },
    },
    403,
  ],
  ['another way to ask', { method: 'DELETE' }, 405],
  ['an address that is broken', { url: '/bench/%' }, 400],
  ['a body without its size', { method: 'POST', url: '/kept' }, 411],
  [
    'a body of no size at all',
    { method: 'POST', url: '/kept', headers: { 'content-length': '1e3' } },
    411,
  ],
  [
    'a body that is too large',
    { method: 'POST', url: '/readings/3', headers: { 'content-length': '1048577' } },
    413,
  ],
  [
    'a picture of the same size',
    { method: 'POST', url: '/prints/3/photos', headers: { 'content-length': '1048577' } },
    200,
  ],
  [
    'a large act',
    {
      method: 'POST',
      url: '/prints/3/photos',
      headers: { 'content-length': '1048577', 'next-action': ACT },
    },
    413,
  ],
  [
    'an act of no such name',
    { method: 'POST', headers: { 'content-length': '2', 'next-action': 'x' } },
    400,
  ],
  [
    'an address that takes nothing',
    { method: 'POST', url: '/things', headers: { 'content-length': '2' } },
    400,
  ],
])('%s', (_, one, status) => {
  expect(statusOf(one)).toBe(status);
});

describe('the body of an act', () => {
  let server: Server;
  beforeAll(async () => {
    server = createServer((got, response) => {
      void actFits(got).then(async (fits) => {
        // Put back: whoever comes next reads all of it.
        let read = '';
        if (fits) for await (const piece of got) read += String(piece);
        response.end(JSON.stringify({ fits, read }));
      });
    });
    await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  });
  afterAll(() => server.close());

  const post = (body: string, type = 'text/plain') =>
    new Promise<{ fits: boolean; read: string }>((resolve, reject) => {
      const { port } = server.address() as AddressInfo;
      const headers = { 'content-length': Buffer.byteLength(body), 'content-type': type };
      const one = request({ port, method: 'POST', host: '127.0.0.1', headers }, (response) => {
        let said = '';
        response.on('data', (piece) => (said += String(piece)));
        response.on('end', () => resolve(JSON.parse(said) as { fits: boolean; read: string }));
      });
      one.on('error', reject);
      // In two pieces, as a network brings it.
      one.write(body.slice(0, 3));
      setTimeout(() => one.end(body.slice(3)), 20);
    });
  const form = (name: string) =>
    `--b\r\ncontent-disposition: form-data; name="${name}"\r\n\r\n[]\r\n--b--\r\n`;
  const FORM = 'multipart/form-data; boundary=b';

  test.each([
    ['[1,2]', undefined, true],
    ['{"a":1}', undefined, false],
    ['[1,2', undefined, false],
    [form('0'), FORM, true],
    [form('1'), FORM, false],
    [form('0').slice(0, -6), FORM, false],
    [form('0'), 'multipart/form-data', false],
  ])('%j fits: %p %p', async (body, type, fits) => {
    const told = await post(body, type);
    expect(told).toEqual({ fits, read: fits ? body : '' });
  });
});
