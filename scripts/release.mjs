/**
 * `npm run release`: one archive, release/ash-ladder-VERSION.tgz, that `npm install -g` takes on a machine without the
 * sources: built pages with what they need of their packages, bundled commands, migrations. Only packages with parts
 * that are made for each machine are left to the installation.
 */

import {
  cpSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { ensureBuild, ensurePackages, ROOT, run, say } from './bootstrap.mjs';

ensurePackages();
const { ensureBundles } = await import('./bundle.mjs');
await ensureBundles();
ensureBuild();

const own = JSON.parse(readFileSync(join(ROOT, 'package.json'), 'utf8'));
/** Made for each machine, or with bytes of their own that stand beside their code. */
const INSTALLED = ['better-sqlite3', 'heic-decode', 'piscina', 'serialport', 'sharp'];
const OUT = join(ROOT, 'release');
const PACKAGE = join(OUT, 'package');
const APP = join(PACKAGE, 'app');
rmSync(OUT, { recursive: true, force: true });
mkdirSync(APP, { recursive: true });

const copy = (from, to, filter = () => true) => cpSync(from, to, { recursive: true, filter });
const built = join(ROOT, '.next');
const alone = join(built, 'standalone');

// Bundles, without what only tests start; where a fault was is told by their maps, in the sources.
copy(
  join(ROOT, 'dist'),
  join(APP, 'dist'),
  (path) => !/\.map$|made-of\.json$|dist\/testing$/.test(path),
);
const dist = join(APP, 'dist');
for (const name of ['ash', 'ash-ladder']) {
  const path = join(dist, `${name}.js`);
  writeFileSync(path, `#!/usr/bin/env node\n${readFileSync(path, 'utf8')}`, { mode: 0o755 });
}

// Pages, and what they need of packages.
copy(
  join(alone, '.next'),
  join(APP, '.next'),
  (path) => !path.startsWith(join(alone, '.next', 'node_modules')),
);
copy(join(built, 'static'), join(APP, '.next', 'static'));
const left = (path) =>
  INSTALLED.some((name) => path.startsWith(join(alone, 'node_modules', name))) ||
  path.startsWith(join(alone, 'node_modules', '@img'));
copy(join(alone, 'node_modules'), join(APP, 'node_modules'), (path) => !left(path));
// The build asks for these by names of its own.
for (const name of readdirSync(join(built, 'node_modules'))) {
  const real = INSTALLED.find((one) => name.startsWith(`${one}-`));
  if (!real) throw new Error(`The pages ask for ${name}, which the release does not install.`);
  const folder = join(APP, '.next', 'node_modules', name);
  mkdirSync(folder, { recursive: true });
  writeFileSync(
    join(folder, 'package.json'),
    JSON.stringify({ name, exports: { import: './index.mjs', require: './index.cjs' } }),
  );
  writeFileSync(join(folder, 'index.cjs'), `module.exports = require('${real}');\n`);
  writeFileSync(
    join(folder, 'index.mjs'),
    `import * as all from '${real}';\nexport * from '${real}';\nexport default all.default ?? all;\n`,
  );
}
for (const part of ['src/store/migrations', 'src/app/icon.svg'])
  copy(join(ROOT, part), join(APP, part));
writeFileSync(join(APP, 'package.json'), JSON.stringify({ type: 'module', private: true }));

for (const name of ['README.md', 'CHANGELOG.md', 'LICENSE', 'docs/service.md', 'docs/formats.md'])
  if (existsSync(join(ROOT, name))) copy(join(ROOT, name), join(PACKAGE, name));
const { name, version, description, license, engines, dependencies } = own;

/** What is installed, to the version and the sum of each: the lock of the sources, as far as it is needed. */
function locked() {
  const { packages } = JSON.parse(readFileSync(join(ROOT, 'package-lock.json'), 'utf8'));
  const wanted = Object.fromEntries(INSTALLED.map((one) => [one, dependencies[one]]));
  const found = { '': { name, version, license, dependencies: wanted } };
  /** Where a package that another one asks for stands: beside it, or as near above it as there is one. */
  const standsAt = (from, asked) => {
    for (let at = from; ; at = at.slice(0, Math.max(0, at.lastIndexOf('/node_modules/')))) {
      const path = `${at === '' ? '' : `${at}/`}node_modules/${asked}`;
      if (packages[path]) return path;
      if (at === '') return null;
    }
  };
  const take = (from, names) => {
    for (const asked of names) {
      const path = standsAt(from, asked);
      if (path === null || found[path]) continue;
      const { dev: _dev, peer: _peer, ...entry } = packages[path];
      found[path] = entry;
      take(path, Object.keys({ ...entry.dependencies, ...entry.optionalDependencies }));
    }
  };
  take('', INSTALLED);
  return { name, version, lockfileVersion: 3, requires: true, packages: found };
}
writeFileSync(
  join(PACKAGE, 'package.json'),
  JSON.stringify(
    {
      name,
      version,
      description,
      license,
      type: 'module',
      engines,
      bin: { 'ash-ladder': 'app/dist/ash-ladder.js', ash: 'app/dist/ash.js' },
      dependencies: Object.fromEntries(INSTALLED.map((one) => [one, dependencies[one]])),
    },
    null,
    2,
  ),
);
writeFileSync(join(PACKAGE, 'npm-shrinkwrap.json'), JSON.stringify(locked(), null, 2));
const archive = join(OUT, `${name}-${version}.tgz`);
run('tar', ['-czf', archive, '-C', OUT, 'package']);
rmSync(PACKAGE, { recursive: true });
say(`${archive}: ${(statSync(archive).size / 2 ** 20).toFixed(1)} MB`);
