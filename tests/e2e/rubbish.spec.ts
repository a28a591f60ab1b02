// Rubbish at every door: whatever comes, it is answered with a plain refusal, never with a fault, and nothing is lost.
import { expect, test } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { request as ask, type IncomingHttpHeaders } from 'node:http';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { ownServer, type OwnServer } from './own-server';

let server: OwnServer;
test.beforeAll(async () => {
  server = await ownServer('demo', 4787);
});
test.afterAll(() => server.stop());

type Answer = { status: number; headers: IncomingHttpHeaders; body: string };

/** A plain request with whatever path, headers and body; what a browser would never send too. */
function send(
  path: string,
  {
    method = 'GET',
    headers = {},
    body,
  }: { method?: string; headers?: Record<string, string>; body?: string | Buffer } = {},
): Promise<Answer> {
  const { hostname, port } = new URL(server.address);
  return new Promise((resolve, reject) => {
    const asked = ask({ host: hostname, port, path, method, headers }, (response) => {
      let text = '';
      response.on('data', (piece) => (text += piece));
      response.on('end', () =>
        resolve({ status: response.statusCode!, headers: response.headers, body: text }),
      );
      response.on('error', reject);
    });
    asked.on('error', (error: NodeJS.ErrnoException) =>
      // Refused before the body was read, the rest of it meets a closed door.
      error.code === 'EPIPE' || error.code === 'ECONNRESET'
        ? resolve({ status: 0, headers: {}, body: '' })
        : reject(error),
    );
    if (body !== undefined) {
      if (!('content-length' in headers))
        asked.setHeader('content-length', Buffer.byteLength(body));
      asked.write(body);
    }
    asked.end();
  });
}

const IDS = [
  '0',
  '-1',
  '1.5',
  '1e9',
  '99999',
  'NaN',
  '__proto__',
  'new',
  '%00',
  '%E0%A4%A',
  '..%2f..',
  '9'.repeat(40),
  '%F0%9F%92%A9',
  "1'--",
];
const PAGES = [
  '/bench/ID',
  '/bench/ID/machine',
  '/bench/ID/shake?axis=ID&record=ID',
  '/bench/ID/shake/file?axis=x&from=ID&seconds=ID',
  '/bench/1/shake/file?axis=ID',
  '/machines/ID/link',
  '/machines/ID/heat',
  '/ladder/ID',
  '/ladder/ID/design',
  '/ladder/ID/print',
  '/ladder/ID/read',
  '/ladder/ID/finding',
  '/ladder/ID/sheet',
  '/ladder/ID/loupe',
  '/ladder/2/loupe?print=ID&photo=ID',
  '/looks/ID',
  '/things/machine/ID',
  '/things/filament/ID',
  '/files/ID',
  '/files/ID/picture',
  '/kept/ID',
  '/prints/ID/picture',
  '/readings/ID',
  '/ladders/ID/spec',
  '/ladder/1/read?reading=ID',
  '/ladder/1/finding?of=ID',
  '/inspect?file=ID&line=ID',
  '/inspect?kept=ID&bench=ID',
  '/things?all=ID&like=ID',
  '/things/machine/new?from=ID',
];

test('no address is a fault', { tag: '@long' }, async () => {
  const faults: string[] = [];
  for (const page of PAGES)
    for (const id of IDS) {
      const path = page.replaceAll('ID', id);
      const { status } = await send(path);
      if (status >= 500) faults.push(`${path} ${status}`);
    }
  for (const path of [
    '/%',
    '/bench/%E0%A4%A',
    '/_next/%c0%ae',
    '//',
    '/\\..',
    `/${'a'.repeat(4000)}`,
  ])
    if ((await send(path)).status >= 500) faults.push(path);
  expect(faults).toEqual([]);
});

const DOORS = [
  '/readings/1',
  '/ladders/1/spec',
  '/kept?bench=1&name=x',
  '/adopt',
  '/understudy?file=1',
  '/everything',
];
const BODIES: [string, string | Buffer, Record<string, string>?][] = [
  ['nothing', ''],
  ['no JSON', '{"acts":'],
  ['null', 'null'],
  ['a number', '1e999'],
  ['deep', '['.repeat(50_000)],
  [
    'a prototype',
    '{"__proto__":{"acts":[]},"acts":[{"id":"a","rung":1e308,"criterion":"stringing","score":4}]}',
  ],
  ['rungs that are none', '{"acts":[{"id":"a","rung":-1,"criterion":"stringing","score":4}]}'],
  [
    'many acts',
    JSON.stringify({ acts: Array.from({ length: 900 }, (_, i) => ({ id: `${i}`, undo: 'x' })) }),
  ],
  ['an odd spec', '{"acts":[{"id":"a","patch":{"from":1e308,"constructor":1}}]}'],
  ['noise', Buffer.from(Array.from({ length: 5000 }, (_, i) => (i * 193) & 255))],
  ['rubbish as multipart', 'rubbish', { 'content-type': 'multipart/form-data; boundary=x' }],
  [
    'multipart cut off',
    '--x\r\ncontent-disposition: form-data; name="picture"\r\n\r\nabc',
    { 'content-type': 'multipart/form-data; boundary=x' },
  ],
  ['gzip of nothing', gzipSync('')],
  ['an export of another', gzipSync('{"format":"ash-ladder/everything","version":1,"schema":5}\n')],
  ['a plan in the text', `G28\n;@plan {"format":"ash-ladder/plan"}\n`],
];

test('no body is a fault, at any door', async () => {
  const faults: string[] = [];
  const before = (await send('/readings/1')).body;
  for (const door of DOORS)
    for (const [name, body, headers = {}] of BODIES) {
      if (door.startsWith('/kept') && body.length > 0) continue; // keeps whatever file is kept
      const { status } = await send(door, { method: 'POST', body, headers });
      if (status >= 500 || (status < 400 && status !== 0))
        faults.push(`${door}, ${name}: ${status}`);
    }
  expect(faults).toEqual([]);
  expect((await send('/readings/1')).body).toBe(before);
});

test('acts of pages called with anything answer in words', { tag: '@long' }, async () => {
  const script = await actionsOf();
  expect(script.length).toBeGreaterThan(8);
  const faults: string[] = [];
  for (const action of script)
    for (const args of [
      '[]',
      '["x"]',
      '[-1,{},[]]',
      '[1e308,"__proto__",{"a":1e308}]',
      '[null,null,null]',
      '[{"$":"x"}]',
      'rubbish',
      '',
    ]) {
      const { status } = await send('/things', {
        method: 'POST',
        body: args,
        headers: { 'next-action': action, 'content-type': 'text/plain;charset=UTF-8' },
      });
      if (status >= 500) faults.push(`${action} ${args}: ${status}`);
    }
  // Of each act the program still lives, and says what it kept.
  expect(faults).toEqual([]);
  expect((await send('/things')).status).toBe(200);
});

/** Names of all acts that pages can call, from the built program. */
async function actionsOf(): Promise<string[]> {
  const manifest = JSON.parse(
    readFileSync(join('.next/server/server-reference-manifest.json'), 'utf8'),
  ) as { node: Record<string, unknown> };
  return Object.keys(manifest.node);
}

test('what is too large is refused before it is read', async () => {
  for (const [path, size] of [
    ['/understudy?file=1', 300 * 2 ** 20],
    ['/adopt', 300 * 2 ** 20],
    ['/readings/1', 5 * 2 ** 20],
    ['/things', 5 * 2 ** 20],
  ] as const) {
    const { status } = await send(path, {
      method: 'POST',
      headers: { 'content-length': String(size), 'next-action': 'a'.repeat(40) },
      body: 'x'.repeat(1000),
    });
    expect([path, status]).toEqual([path, 413]);
  }
  expect(
    (
      await send('/adopt', {
        method: 'POST',
        headers: { 'transfer-encoding': 'chunked' },
      })
    ).status,
  ).toBe(411);
});

/** As long as those that browsers make; shorter ones are refused as they are. */
const EDGE = '-'.repeat(20) + 'ash0123456789';

test('eight bytes are no picture', async () => {
  const png = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
  const part = (name: string, type: string, data: Buffer | string) =>
    Buffer.concat([
      Buffer.from(
        `--${EDGE}\r\ncontent-disposition: form-data; name="${name}"${type ? `; filename="p"\r\ncontent-type: ${type}` : ''}\r\n\r\n`,
      ),
      Buffer.from(data as string),
      Buffer.from('\r\n'),
    ]);
  const body = Buffer.concat([
    part('simulated', '', '{"name":"x","seed":1}'),
    part('picture', 'image/png', png),
    Buffer.from(`--${EDGE}--\r\n`),
  ]);
  const { status, body: text } = await send('/understudy?file=1', {
    method: 'POST',
    body,
    headers: { 'content-type': `multipart/form-data; boundary=${EDGE}` },
  });
  expect([status, text.includes('not a PNG')]).toEqual([400, true]);
});

test('pages cannot be framed, and a frame of another site gets nothing', async () => {
  const { headers } = await send('/bench/1');
  expect(headers['content-security-policy']).toContain("frame-ancestors 'none'");
  expect(headers['content-security-policy']).toMatch(/script-src 'self' 'nonce-[^']+'/);
  expect(headers['content-security-policy']).not.toMatch(/script-src[^;]*unsafe-inline/);
  expect(headers['x-content-type-options']).toBe('nosniff');
  expect(headers['referrer-policy']).toBe('no-referrer');
  const frame = {
    'sec-fetch-site': 'cross-site',
    'sec-fetch-mode': 'navigate',
    'sec-fetch-dest': 'iframe',
  };
  expect((await send('/bench/1', { headers: frame })).status).toBe(403);
  expect(
    (await send('/bench/1', { headers: { ...frame, 'sec-fetch-dest': 'document' } })).status,
  ).toBe(200);
  expect(
    (
      await send('/bench/1', {
        headers: {
          'sec-fetch-site': 'same-site',
          'sec-fetch-mode': 'no-cors',
          'sec-fetch-dest': 'image',
        },
      })
    ).status,
  ).toBe(403);
});

test('values edited in the text of a ladder are not taken in under those of its plan', async () => {
  const file = await send('/files/1');
  expect(file.status).toBe(200);
  const edited = file.body.replace(/^M104 S215$/m, 'M104 S235');
  expect(edited).not.toBe(file.body);
  const { status, body } = await send('/adopt', { method: 'POST', body: edited });
  expect([status, body.includes('Rung')]).toEqual([400, true]);
  expect((await send('/adopt', { method: 'POST', body: file.body })).status).toBe(200);
});

test('everything goes out and comes in again; a broken file changes nothing', async ({ page }) => {
  const { hostname, port } = new URL(server.address);
  const file = await new Promise<Buffer>((resolve, reject) => {
    ask({ host: hostname, port, path: '/everything' }, (response) => {
      const parts: Buffer[] = [];
      response.on('data', (piece: Buffer) => parts.push(piece));
      response.on('end', () => resolve(Buffer.concat(parts)));
    })
      .on('error', reject)
      .end();
  });
  const broken = await send('/everything', {
    method: 'POST',
    body: file.subarray(0, file.length - 200),
  });
  expect(broken.status).toBe(400);
  await page.goto(`${server.address}/things`);
  await page.getByRole('button', { name: /^Archive Heron$/ }).click();
  await expect(page.getByText('Heron is in the archive.')).toBeVisible();
  await page
    .getByLabel('Exported file')
    .setInputFiles({ name: 'all.ash', mimeType: 'application/gzip', buffer: file });
  await page.getByRole('button', { name: 'Replace everything' }).click();
  await expect(page).toHaveURL(/\/bench\/\d+/);
  await page.goto(`${server.address}/things`);
  await expect(page.getByRole('button', { name: /^Archive Heron$/ })).toBeVisible();
});
