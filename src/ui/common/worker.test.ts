import { begunOnceMore } from './worker';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

test('how far it is is told until it is over, and never after that: the answer may overtake it', async () => {
  const shares: number[] = [];
  let tell: (share?: number) => void = () => undefined;
  const begin = (told: typeof tell) => {
    tell = told;
    tell(0);
    return new Promise<number>((done) => setTimeout(() => done(7), 10));
  };
  const asked = begunOnceMore(begin, (share) => shares.push(share));
  tell(0.5);
  expect(await ended(asked)).toBe(7);
  tell(0.7);
  expect(shares).toEqual([0, 0.5]);
});

/** Workers that answer after a time, or give a sign of life and then take theirs; null never answers. */
const workers = (...answers: { afterMs: number | null; lives?: boolean }[]) => {
  let begun = 0;
  const begin = (alive: () => void) => {
    const mine = ++begun;
    const { afterMs, lives = false } = answers[mine - 1]!;
    if (lives) alive();
    return new Promise<number>((done) => {
      if (afterMs !== null) setTimeout(() => done(mine), afterMs);
    });
  };
  return { begin, begun: () => begun };
};
const ended = async (promise: Promise<number>) => {
  const told = promise.then(
    (value) => value,
    (error: Error) => error.message,
  );
  await jest.advanceTimersByTimeAsync(300_000);
  return Promise.race([told, Promise.resolve('still waiting')]);
};

test('one that answers, or gives a sign of life, is waited for', async () => {
  for (const one of [{ afterMs: 10 }, { afterMs: 200_000, lives: true }]) {
    const { begin, begun } = workers(one);
    expect([await ended(begunOnceMore(begin)), begun()]).toEqual([1, 1]);
  }
});

test('a silent one is given up for another', async () => {
  const { begin, begun } = workers({ afterMs: null }, { afterMs: 30_000 });
  expect([await ended(begunOnceMore(begin)), begun()]).toEqual([2, 2]);
});

test('two silent ones are told of, and nothing waits for ever', async () => {
  const { begin, begun } = workers({ afterMs: null }, { afterMs: null });
  expect(await ended(begunOnceMore(begin))).toContain('could not be loaded');
  expect(begun()).toBe(2);
});
