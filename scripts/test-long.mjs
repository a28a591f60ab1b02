/** `npm run test:long`: what takes minutes and changes seldom, unit tests first, then browser tests. */

import { spawnSync } from 'node:child_process';
import { bin, CHROMIUM, ensureBuild, readyForTests, ROOT, say } from './bootstrap.mjs';

await readyForTests();
ensureBuild();

const STEPS = [
  ['unit tests', bin('jest'), ['--ci', '--config', 'jest.long.config.mjs']],
  // The walk is in both: here at every width, in both themes.
  ['browser tests', bin('playwright'), ['test', '--grep', '@long|can be pressed at every width']],
];
const failed = STEPS.filter(([title, command, args]) => {
  const at = Date.now();
  say(`— ${title}`);
  const { status } = spawnSync(command, args, {
    cwd: ROOT,
    stdio: 'inherit',
    env: { ...process.env, ASH_CHROMIUM: CHROMIUM, ASH_LONG: 'yes' },
  });
  say(`— ${title}: ${((Date.now() - at) / 60_000).toFixed(1)} min`);
  return status !== 0;
});
if (failed.length > 0) {
  say(`Not passed: ${failed.map(([title]) => title).join(', ')}.`);
  process.exit(1);
}
