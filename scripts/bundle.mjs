/** Bundles of everything that runs outside the browser: nothing is compiled while it runs. */

import {
  existsSync,
  mkdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { ROOT, say } from './bootstrap.mjs';

const DIST = join(ROOT, 'dist');
/** What the bundles were made of, with size and time of each file. */
const MADE_OF = 'made-of.json';

/** Processes and threads, each whole in one file. */
const WHOLE = {
  server: 'src/serve/server.ts',
  link: 'src/link/main.ts',
  'server-thread': 'src/workers/server.ts',
  'keeper-thread': 'src/store/keeper.ts',
  understudy: 'scripts/understudy.ts',
  'fill-demo': 'scripts/fill-demo.ts',
  // Killed in the middle of writing, by a test of the store.
  'testing/write-on': 'src/store/testing/write-on.ts',
};
/** Commands, in pieces: each reads only what it needs, at once, and nothing later. */
const IN_PIECES = { ash: 'src/cli/ash.ts', 'ash-ladder': 'src/serve/ash-ladder.ts' };

/** Packages that bring more than JavaScript, or that the app brings along. */
const EXTERNAL = ['better-sqlite3', 'serialport', 'sharp', 'next', 'piscina', 'heic-decode'];

const options = (entryPoints, outdir, splitting) => ({
  absWorkingDir: ROOT,
  entryPoints,
  outdir,
  splitting,
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  external: EXTERNAL,
  sourcemap: true,
  minifyWhitespace: true,
  minifySyntax: true,
  metafile: true,
  logLevel: 'warning',
  // Packages of the older sort ask for others by `require`.
  banner: {
    js: `import { createRequire as requireHere } from 'node:module'; const require = requireHere(import.meta.url);`,
  },
});
const both = (outdir) => [options(WHOLE, outdir, false), options(IN_PIECES, outdir, true)];

const sign = (path) => {
  const stat = statSync(path, { throwIfNoEntry: false });
  return stat ? `${stat.mtimeMs} ${stat.size}` : 'gone';
};

/** Whether the bundles are of the sources as they are. */
function isFresh() {
  const path = join(DIST, MADE_OF);
  if (!existsSync(path)) return false;
  return Object.entries(JSON.parse(readFileSync(path, 'utf8'))).every(
    ([file, was]) => sign(join(ROOT, file)) === was,
  );
}

/** Makes the bundles unless they are of the sources as they are. */
export async function ensureBundles() {
  if (isFresh()) return;
  say('Bundling …');
  const { build } = await import('esbuild');
  const made = join(ROOT, `dist.${process.pid}`);
  const inputs = new Set(['package-lock.json', 'scripts/bundle.mjs']);
  for (const one of both(made)) {
    const { metafile } = await build(one);
    // Packages are as the lock says.
    for (const file of Object.keys(metafile.inputs))
      if (!file.startsWith('node_modules/')) inputs.add(file);
  }
  const signs = Object.fromEntries([...inputs].map((file) => [file, sign(join(ROOT, file))]));
  writeFileSync(join(made, MADE_OF), JSON.stringify(signs));
  const old = join(ROOT, `dist.${process.pid}.old`);
  try {
    if (existsSync(DIST)) renameSync(DIST, old);
    renameSync(made, DIST);
  } catch (error) {
    // Another that bundles at the same time makes the same, and was faster.
    if (!isFresh()) throw error;
    rmSync(made, { recursive: true, force: true });
  }
  rmSync(old, { recursive: true, force: true });
}

/** Bundles again whenever a source changes, for as long as this process lives. */
export async function keepBundling() {
  const { context } = await import('esbuild');
  mkdirSync(DIST, { recursive: true });
  for (const one of both(DIST)) await (await context(one)).watch();
}
