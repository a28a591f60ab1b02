/** `npm run demo`: installs, builds, fills a demo database and serves it. */

import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { bin, ensureBuild, ensurePackages, ROOT, run } from './bootstrap.mjs';

ensurePackages();
ensureBuild();
const data = resolve(ROOT, process.env.ASH_DATA ?? 'demo-data');
if (!existsSync(join(data, 'ash.sqlite'))) run(bin('tsx'), ['scripts/fill-demo.ts', data]);
const { serve } = await import('./serve.mjs');
await serve(data, { understudies: true });
