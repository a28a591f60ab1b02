/** What a fresh machine needs, installed when it is missing. */

import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, rmSync, statSync, writeFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';

export const ROOT = join(import.meta.dirname, '..');
const MARK = join(ROOT, 'node_modules', '.installed');
export const CHROMIUM = process.env.ASH_CHROMIUM ?? '/usr/bin/chromium';

export const say = (text) => process.stderr.write(`${text}\n`);

/** Runs a program to its end; ends this one with its code when it fails. */
export function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, { cwd: ROOT, stdio: 'inherit', ...options });
  if (error) throw error;
  if (status !== 0) process.exit(status ?? 1);
}

/** Path of a program that a package brings. */
export const bin = (name) => join(ROOT, 'node_modules', '.bin', name);

const hashOf = (...files) => {
  const hash = createHash('sha256');
  for (const file of files) hash.update(readFileSync(file));
  return hash.digest('hex');
};

/** Installs the locked packages unless just these are there. */
export function ensurePackages() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 11)) {
    say(`Node ${process.versions.node} is too old; 20.11 or newer is needed.`);
    process.exit(1);
  }
  const wanted = hashOf(join(ROOT, 'package-lock.json'));
  if (existsSync(MARK) && readFileSync(MARK, 'utf8') === wanted) return;
  say('Installing packages; the first time takes a few minutes …');
  // Talk goes to standard error, so that commands can be piped.
  run('npm', ['ci', '--no-audit', '--no-fund', '--include=dev'], { stdio: ['ignore', 2, 2] });
  writeFileSync(MARK, wanted);
}

/** Debian's Chromium, for tests and screenshots. */
export const ensureChromium = () => ensureDebian('chromium', CHROMIUM);

/** Debian's socat: a pair of pseudo-terminals stands for a serial cable in tests. */
export const ensureSocat = () => ensureDebian('socat', '/usr/bin/socat');

function ensureDebian(name, path) {
  if (existsSync(path)) return;
  say(`Installing ${name} from Debian’s packages …`);
  const root = process.getuid?.() === 0;
  const apt = (...args) =>
    run(root ? 'apt-get' : 'sudo', root ? args : ['apt-get', ...args], {
      stdio: ['ignore', 2, 2],
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    });
  apt('update');
  apt('install', '-y', '--no-install-recommends', name);
}

/** What is below `src` and in no page: tests, and what is only bundled. */
const IN_NO_PAGE = /\.(test|long)\.tsx?$|[/\\]testing$|[/\\]src[/\\](serve|cli)$/;

/** Newest change below some folders and files, ms. */
function newest(...paths) {
  let time = 0;
  for (const path of paths) {
    const stat = statSync(path, { throwIfNoEntry: false });
    if (!stat || IN_NO_PAGE.test(path)) continue;
    time = Math.max(time, stat.mtimeMs);
    if (stat.isDirectory())
      for (const name of readdirSync(path)) time = Math.max(time, newest(join(path, name)));
  }
  return time;
}

const BUILD = join(ROOT, '.next');
const BUILT = join(BUILD, 'BUILD_ID');

/** Builds the app unless the build is newer than everything it is made of. */
export function ensureBuild() {
  const sources = [
    'src',
    'package-lock.json',
    'next.config.ts',
    'postcss.config.mjs',
    'tsconfig.json',
  ];
  if (
    existsSync(BUILT) &&
    statSync(BUILT).mtimeMs > newest(...sources.map((name) => join(ROOT, name)))
  )
    return;
  say('Building …');
  rmSync(BUILD, { recursive: true, force: true });
  run(bin('next'), ['build'], {
    stdio: ['ignore', 2, 2],
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' },
  });
}

/** All that tests stand on, but for the built pages. */
export async function readyForTests() {
  ensurePackages();
  ensureChromium();
  ensureSocat();
  // It needs a package itself.
  const { ensureBundles } = await import('./bundle.mjs');
  await ensureBundles();
}
