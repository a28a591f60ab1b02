import { spawn } from 'node:child_process';
import { keepUp } from './keep-up';

/** A process that ends by itself with a code, or never. */
const ends = (code: number | null) =>
  spawn(process.execPath, [
    '-e',
    code === null ? 'setInterval(() => 0, 1e6)' : `process.exit(${code})`,
  ]);

test('what ends by itself is started again, and given up when it goes on so', async () => {
  let starts = 0;
  const kept = keepUp(() => {
    starts++;
    return ends(3);
  });
  expect(await kept.gaveUp).toBe(3);
  expect(starts).toBe(6);
  await kept.end('SIGTERM');
});

test('what is ended stays ended, however often that is asked', async () => {
  let starts = 0;
  const kept = keepUp(() => {
    starts++;
    return ends(null);
  });
  await kept.end('SIGTERM');
  await kept.end('SIGTERM');
  expect(starts).toBe(1);
});

test('one that was killed from outside is started again', async () => {
  const children: ReturnType<typeof ends>[] = [];
  let second = () => undefined as void;
  const again = new Promise<void>((resolve) => (second = resolve));
  const kept = keepUp(() => {
    children.push(ends(null));
    if (children.length === 2) second();
    return children.at(-1)!;
  });
  children[0]!.kill('SIGKILL');
  await again;
  await kept.end('SIGTERM');
  expect(children).toHaveLength(2);
});
