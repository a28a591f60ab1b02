import { ok, type Result } from '../core/result';
import { inTime, Turns } from './turns';

const after = (ms: number) =>
  new Promise<Result<null>>((resolve) => setTimeout(() => resolve(ok(null)), ms));

test('what takes too long is given up in words, once', async () => {
  expect(await inTime('heat', after(5))).toEqual(ok(null));
  expect(await inTime('heat', after(200), 10)).toMatchObject({
    ok: false,
    problems: [{ what: expect.stringContaining('It may still do it') as string }],
  });
});

test('acts go one after the other, also after one that failed', async () => {
  const turns = new Turns();
  const order: string[] = [];
  const act = (name: string, ms: number) =>
    turns.take('heat', async () => {
      order.push(`${name} begins`);
      await after(ms);
      order.push(`${name} ends`);
      if (name === 'b') throw new Error('a fault');
      return ok(name);
    });
  const [a, b, c] = await Promise.allSettled([act('a', 20), act('b', 1), act('c', 1)]);
  expect([a.status, b.status, c.status]).toEqual(['fulfilled', 'rejected', 'fulfilled']);
  expect(order).toEqual(['a begins', 'a ends', 'b begins', 'b ends', 'c begins', 'c ends']);
});
