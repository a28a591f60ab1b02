/** Requests as nobody's browser sends them: any host, any origin, any cookie. For tests of the door. */

import { request, type IncomingHttpHeaders } from 'node:http';

export type Answer = { status: number; headers: IncomingHttpHeaders; body: string };
export type Try = {
  path?: string;
  method?: string;
  headers?: Record<string, string>;
  body?: string;
};

/** @param host  `address:port` that is asked, and named where the try names no other */
export function sendTo(
  host: string,
  { path = '/', method = 'GET', headers = {}, body = '' }: Try,
): Promise<Answer> {
  const [address, port] = host.split(':');
  const length = body === '' ? {} : { 'content-length': String(Buffer.byteLength(body)) };
  return new Promise((resolve, reject) => {
    const asked = request(
      {
        host: address,
        port,
        path,
        method,
        setHost: false,
        headers: { host, ...length, ...headers },
      },
      (answer) => {
        let text = '';
        answer.setEncoding('utf8').on('data', (piece: string) => (text += piece));
        answer.on('end', () =>
          resolve({ status: answer.statusCode!, headers: answer.headers, body: text }),
        );
        answer.on('error', reject);
      },
    );
    asked.on('error', reject);
    asked.end(body);
  });
}

/** The form in which a code is sent. */
export const withCode = (
  host: string,
  code: string,
  headers: Record<string, string> = {},
): Try => ({
  path: '/pair',
  method: 'POST',
  body: new URLSearchParams({ code, name: 'Bench phone', reader: 'Ines' }).toString(),
  headers: {
    'content-type': 'application/x-www-form-urlencoded',
    origin: `http://${host}`,
    ...headers,
  },
});
