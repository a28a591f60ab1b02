/** `npm test`: format, lint, types, unit tests, and the built app in a real browser. */

import { spawn } from 'node:child_process';
import { once } from 'node:events';
import {
  bin,
  CHROMIUM,
  ensureBuild,
  ensureChromium,
  ensurePackages,
  ensureSocat,
  ROOT,
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
say('\n— browser tests, in two halves side by side');
// Each half has a server, a port and a store of its own: nothing is shared.
const halves = await Promise.all(
  [1, 2].map((half) => {
    const child = spawn(bin('playwright'), ['test', `--shard=${half}/2`], {
      cwd: ROOT,
      env: { ...process.env, ASH_CHROMIUM: CHROMIUM, ASH_E2E_PORT: String(4779 + half) },
      stdio: ['ignore', 'inherit', 'inherit'],
    });
    return once(child, 'exit');
  }),
);
if (halves.some(([code]) => code !== 0)) process.exit(1);
say('\nAll steps passed.');
