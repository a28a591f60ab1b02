/** `npm run -s ash -- …`: the command line, installed when it is missing. */

import { spawnSync } from 'node:child_process';
import { resolve } from 'node:path';
import { bin, ensurePackages, ROOT } from './bootstrap.mjs';

ensurePackages();
// Paths are meant from where the user stands.
const { status } = spawnSync(
  bin('tsx'),
  [resolve(ROOT, 'src/cli/ash.ts'), ...process.argv.slice(2)],
  {
    stdio: 'inherit',
    cwd: process.env.INIT_CWD ?? process.cwd(),
  },
);
process.exit(status ?? 1);
