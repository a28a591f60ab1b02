/** `npm run restore [copy]`: goes back to a copy of the data, in ASH_DATA or ./data, or lists those that there are. */

import { join, resolve } from 'node:path';
import { ensurePackages, ROOT } from './bootstrap.mjs';

ensurePackages();
const { ensureBundles } = await import('./bundle.mjs');
await ensureBundles();
process.env.ASH_DATA = resolve(ROOT, process.env.ASH_DATA ?? 'data');
process.env.ASH_CALLED = 'npm run';
process.argv.splice(2, 0, 'restore');
await import(join(ROOT, 'dist/ash-ladder.js'));
