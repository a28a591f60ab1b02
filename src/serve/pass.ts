/** What happens to a request that the door has let in: its data and its press are looked up, then the app answers it. */

import type { IncomingMessage, ServerResponse } from 'node:http';
import type { Desk } from '../lan/desk';
import { actFits, HEADERS } from './door';

const PRESSED = /^\/pressed\/([\w.-]+)$/;

/** Refuses a request in words, and lets its connection go. */
export function refuse(
  request: IncomingMessage,
  response: ServerResponse,
  status: number,
  text: string,
): void {
  response.writeHead(status, {
    ...HEADERS,
    'content-type': 'text/plain; charset=utf-8',
    connection: 'close',
  });
  response.end(`${text}\n`);
  // What is still being sent is not waited for.
  response.on('finish', () => setTimeout(() => request.socket.destroy(), 200).unref());
}

type Parts = {
  desk: Pick<Desk, 'fate' | 'follow' | 'identity' | 'replacing' | 'turned'>;
  /** Whether everything is being replaced. */
  isReplacing: () => boolean;
  /** The app. */
  answer: (request: IncomingMessage, response: ServerResponse) => Promise<void>;
};

/** @returns hands a request on to the app; who asks has been seen to */
export function passing({ desk, isReplacing, answer }: Parts) {
  const answerJson = (response: ServerResponse, status: number, body: unknown): void => {
    response.writeHead(status, {
      ...HEADERS,
      'content-type': 'application/json',
      'cache-control': 'no-store',
      'x-ash-store': desk.identity(),
    });
    response.end(JSON.stringify(body));
  };
  return (request: IncomingMessage, response: ServerResponse): void => {
    // Everything is being replaced: what would be written waits, and is sent again.
    const press = PRESSED.exec(request.url ?? '')?.[1];
    if (isReplacing() && (request.method === 'POST' || press !== undefined)) {
      answerJson(response, 503, { problems: [desk.replacing] });
      request.resume();
      return;
    }
    if (press !== undefined) {
      void desk.fate(press).then((state) => answerJson(response, 200, { state }));
      return;
    }
    const turned = desk.turned(request);
    if (turned) {
      answerJson(response, turned.status, { problems: turned.problems });
      request.resume();
      return;
    }
    const act = request.method === 'POST' && request.headers['next-action'] !== undefined;
    const come = act ? actFits(request) : Promise.resolve(true);
    const answered = come.then((fits) =>
      fits
        ? answer(request, response)
        : refuse(request, response, 400, 'This is no act of a page.'),
    );
    desk.follow(request, answered, () => response.statusCode);
    answered.catch((error: Error) => {
      process.stderr.write(`${error.stack}\n`);
      if (!response.headersSent) refuse(request, response, 500, 'A fault of the program.');
    });
  };
}
