/** `npm test`: format, lint, types, unit tests, and the built app in a real browser. */

import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
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
/** What takes as long as all the rest together: prints over wires, and every page at every width. */
const LONG = ['machine', 'rubbish', 'server', 'shake', 'walk'];
const all = readdirSync(join(ROOT, 'tests/e2e'))
  .filter((file) => file.endsWith('.spec.ts'))
  .map((file) => `tests/e2e/${file}`);
const isLong = (file) => LONG.some((name) => file.endsWith(`/${name}.spec.ts`));
// Each half has a server, a port and a store of its own: nothing is shared.
const halves = await Promise.all(
  [all.filter(isLong), all.filter((file) => !isLong(file))].map((files, half) => {
    const child = spawn(bin('playwright'), ['test', ...files], {
      cwd: ROOT,
      env: { ...process.env, ASH_CHROMIUM: CHROMIUM, ASH_E2E_PORT: String(4780 + half) },
      stdio: ['ignore', 'inherit', 'inherit'],
    });
    return once(child, 'exit');
  }),
);
if (halves.some(([code]) => code !== 0)) process.exit(1);
say('\nAll steps passed.');
