import { expect, test } from './base';
import { request as ask } from 'node:http';

/** Status of a plain request with headers that no browser page of ours would send. */
function status(
  port: string,
  headers: Record<string, string>,
  method = 'GET',
  path = '/bench/new',
): Promise<number> {
  return new Promise((resolve, reject) => {
    const asked = ask({ host: '127.0.0.1', port, path, method, headers }, (response) => {
      response.resume();
      resolve(response.statusCode!);
    });
    asked.on('error', reject);
    asked.end();
  });
}

test('the server answers only to its own names and origins', async ({ baseURL }) => {
  const { port, host } = new URL(baseURL!);
  expect(await status(port, { host })).toBe(200);
  expect(await status(port, { host: `localhost:${port}` })).toBe(200);
  expect(await status(port, { host: 'elsewhere.example' })).toBe(403);
  expect(await status(port, { host, origin: 'http://elsewhere.example' })).toBe(403);
  expect(await status(port, { host, origin: 'http://elsewhere.example' }, 'POST')).toBe(403);
  expect(
    await status(port, { host, 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'cors' }),
  ).toBe(403);
  expect(
    await status(port, {
      host,
      'sec-fetch-site': 'cross-site',
      'sec-fetch-mode': 'navigate',
      'sec-fetch-dest': 'document',
    }),
  ).toBe(200);
  expect(await status(port, { host: 'elsewhere.example' }, 'GET', '/files/1')).toBe(403);
});
