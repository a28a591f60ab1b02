/** `npm test`: format, lint, types, unit tests, and the built app in a real browser. */

import {
  bin,
  CHROMIUM,
  ensureBuild,
  ensureChromium,
  ensurePackages,
  ensureSocat,
  run,
  say,
} from './bootstrap.mjs';

ensurePackages();
ensureChromium();
ensureSocat();
const step = (title, command, args, env = {}) => {
  say(`\n— ${title}`);
  run(command, args, { env: { ...process.env, ...env } });
};
step('format', bin('prettier'), ['--check', '.', '--log-level', 'warn']);
step('lint', bin('eslint'), ['.']);
say('\n— build');
ensureBuild();
step('types', bin('tsc'), ['--noEmit']);
step('unit tests', bin('jest'), ['--ci']);
step('browser tests', bin('playwright'), ['test'], { ASH_CHROMIUM: CHROMIUM });
say('\nAll steps passed.');
