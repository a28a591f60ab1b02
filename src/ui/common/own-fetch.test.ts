/** What leaves a page, seen from where it arrives. */

type Sent = { headers: Headers; keepalive?: boolean };
const sent: Sent[] = [];
let answer: () => Promise<Response>;
const shelf = new Map<string, string>();
const heard = new Map<string, () => void>();
const win = {
  addEventListener: (name: string, hear: () => void) => void heard.set(name, hear),
  fetch: (_: string, init: Sent) => {
    sent.push(init);
    return answer();
  },
  location: { href: 'http://127.0.0.1:4700/archive', origin: 'http://127.0.0.1:4700' },
  sessionStorage: {
    getItem: (key: string) => shelf.get(key) ?? null,
    setItem: (key: string, text: string) => void shelf.set(key, text),
    removeItem: (key: string) => void shelf.delete(key),
  },
};
const names = () => JSON.parse(shelf.get('ash-presses') ?? '[]') as string[];
const act = (body: string) =>
  (win.fetch as unknown as typeof fetch)('/archive', {
    method: 'POST',
    headers: { 'next-action': 'a1' },
    body,
  });

beforeAll(async () => {
  Object.assign(globalThis, {
    window: win,
    sessionStorage: win.sessionStorage,
    document: { documentElement: { dataset: { store: 'one' } } },
  });
  await import('./own-fetch');
});
beforeEach(() => {
  sent.length = 0;
  shelf.delete('ash-presses');
  answer = async () => new Response('{}');
});

test('a press goes on when its page is left, and its name waits until it is answered', async () => {
  let come = (_: Response) => {};
  answer = () => new Promise((resolve) => (come = resolve));
  const pressed = act('[]');
  expect(sent[0]!.keepalive).toBe(true);
  expect(names()).toEqual([sent[0]!.headers.get('x-ash-press')]);
  come(new Response('{}'));
  await pressed;
  expect(names()).toEqual([]);
});

test('one whose answer is lost is still known to the next page', async () => {
  answer = async () => {
    throw new TypeError('Failed to fetch');
  };
  await expect(act('[]')).rejects.toThrow();
  expect(names()).toHaveLength(1);
});

test('what a browser would refuse to go on with is sent as usual', async () => {
  await act('ü'.repeat(30_000));
  expect(sent[0]!.keepalive).toBe(false);
});

test('looking is no press', async () => {
  await (win.fetch as unknown as typeof fetch)('/bench/1');
  expect(sent[0]!.headers.get('x-ash-press')).toBeNull();
  expect(sent[0]!.headers.get('x-ash-store')).toBe('one');
  expect(sent[0]!.keepalive).toBeUndefined();
});

test('a press that is answered while its page is being left is known to the next page', async () => {
  jest.useFakeTimers();
  heard.get('beforeunload')!();
  await act('[]');
  expect(names()).toHaveLength(1);
  heard.get('pageshow')!();
  await act('[]');
  expect(names()).toHaveLength(1);
  jest.useRealTimers();
});
