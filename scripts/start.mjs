/** `npm start`: the user's own data, in ASH_DATA or ./data. `npm run dev` follows changes of the sources. */

import { join, resolve } from 'node:path';
import { ensureBuild, ensurePackages, ROOT } from './bootstrap.mjs';

ensurePackages();
const { ensureBundles, keepBundling } = await import('./bundle.mjs');
if (!process.argv.includes('--dev')) ensureBuild();
await ensureBundles();
if (process.argv.includes('--dev')) await keepBundling();
process.env.ASH_DATA = resolve(ROOT, process.env.ASH_DATA ?? 'data');
process.env.ASH_CALLED ??= 'npm start --';
await import(join(ROOT, 'dist/ash-ladder.js'));
