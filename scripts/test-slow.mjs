/** `npm run test:slow`: the whole suite beside four busy processes, three times. */

import { spawn, spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { ROOT, say } from './bootstrap.mjs';

const [BUSY, RUNS] = [4, Number(process.argv[2] ?? 3)];
const busy = Array.from({ length: BUSY }, () =>
  spawn(process.execPath, ['-e', 'for (;;);'], { stdio: 'ignore' }),
);
process.on('exit', () => busy.forEach((one) => one.kill('SIGKILL')));
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => process.exit(1));
for (let n = 1; n <= RUNS; n++) {
  const began = Date.now();
  const { status } = spawnSync(process.execPath, [join(ROOT, 'scripts/test.mjs')], {
    cwd: ROOT,
    stdio: 'inherit',
  });
  say(`\nRun ${n} of ${RUNS} took ${((Date.now() - began) / 60_000).toFixed(1)} minutes.`);
  if (status !== 0) process.exit(status ?? 1);
}
process.exit(0);
