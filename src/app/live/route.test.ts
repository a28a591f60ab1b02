/** The stream of events by which pages are told what changed elsewhere. */

import { changed } from '../server/live';
import { GET } from './route';

jest.mock('server-only', () => ({}));

/** Opens a stream and reads what comes of it. */
function listening(...topics: string[]) {
  const asked = new AbortController();
  const query = new URLSearchParams(topics.map((topic) => ['of', topic]));
  const answer = GET(new Request(`http://x/live?${query}`, { signal: asked.signal }));
  const reader = answer.body!.getReader();
  const decoder = new TextDecoder();
  return {
    answer,
    next: async () => decoder.decode((await reader.read()).value),
    leave: () => asked.abort(),
  };
}
const followers = (topic: string): number =>
  (globalThis as { ashLive?: { listenerCount: (name: string) => number } }).ashLive?.listenerCount(
    topic,
  ) ?? 0;

test('a change of what is followed comes at once, with its revision, and nothing else does', async () => {
  const { answer, next, leave } = listening('/readings/3', '/prints/4/photos');
  expect(answer.headers.get('content-type')).toBe('text/event-stream');
  expect(await next()).toBe('retry: 1000\n\n');
  changed('/readings/9', 1);
  changed('/readings/3', 7);
  expect(await next()).toBe('data: /readings/3 7\n\n');
  changed('/prints/4/photos', 2);
  expect(await next()).toBe('data: /prints/4/photos 2\n\n');
  // How far a print is, and that it stopped, come the same way.
  leave();
});

test('what is no topic is not followed, and no page follows more than a few', async () => {
  const many = Array.from({ length: 30 }, (_, i) => `/readings/${i + 100}`);
  const { next, leave } = listening('/etc/passwd', '/readings/x', '/readings/1\nevil', ...many);
  await next();
  expect(followers('/etc/passwd')).toBe(0);
  expect(followers('/readings/x')).toBe(0);
  expect(many.filter((topic) => followers(topic) > 0)).toHaveLength(8);
  leave();
});

test('a page that leaves is followed by nobody any longer', async () => {
  const { next, leave } = listening('/files/5/run');
  await next();
  expect(followers('/files/5/run')).toBe(1);
  changed('/files/5/run', -2);
  expect(await next()).toBe('data: /files/5/run -2\n\n');
  leave();
  expect(followers('/files/5/run')).toBe(0);
  // Told after that, nothing breaks.
  changed('/files/5/run', 1);
});
