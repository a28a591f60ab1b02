/** `npm start`: the user's own data, in ASH_DATA or ./data. */

import { resolve } from 'node:path';
import { ensureBuild, ensurePackages, ROOT } from './bootstrap.mjs';

ensurePackages();
const dev = process.argv.includes('--dev');
if (!dev) ensureBuild();
const { serve } = await import('./serve.mjs');
await serve(resolve(ROOT, process.env.ASH_DATA ?? 'data'), {
  dev,
  // For trying things out: simulated machines stand ready on the wire.
  understudies: process.env.ASH_UNDERSTUDY_SPEED !== undefined,
});
