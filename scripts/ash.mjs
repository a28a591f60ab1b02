/** `npm run -s ash -- …`: the command line, installed and bundled when that is missing. */

import { join } from 'node:path';
import { ensurePackages, ROOT } from './bootstrap.mjs';

ensurePackages();
const { ensureBundles } = await import('./bundle.mjs');
await ensureBundles();
// Paths are meant from where the user stands.
process.chdir(process.env.INIT_CWD ?? process.cwd());
await import(join(ROOT, 'dist/ash.js'));
