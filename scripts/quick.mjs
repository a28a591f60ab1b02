/** `npm run quick`: format, lint, types and the unit tests of what has changed since the last commit. */

import { spawn, spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { bin, ensurePackages, ROOT, say } from './bootstrap.mjs';

ensurePackages();
const git = (...args) =>
  spawnSync('git', args, { cwd: ROOT, encoding: 'utf8' }).stdout.split('\n').filter(Boolean);
const changed = [
  ...git('diff', '--name-only', '--diff-filter=d', 'HEAD'),
  ...git('ls-files', '--others', '--exclude-standard'),
].filter((file) => existsSync(`${ROOT}/${file}`));
if (changed.length === 0) {
  say('Nothing has changed since the last commit.');
  process.exit(0);
}
const sources = changed.filter((file) => /\.(ts|tsx|mjs)$/.test(file));
const inUnits = sources.filter((file) => file.startsWith('src/'));

/** Runs one check to its end. @returns its name where it failed */
const check = (name, command, args) =>
  new Promise((resolve) => {
    const child = spawn(bin(command), args, { cwd: ROOT, stdio: 'inherit' });
    child.on('exit', (code) => resolve(code === 0 ? null : name));
  });
const checks = [
  check('format', 'prettier', ['--check', '--ignore-unknown', '--log-level', 'warn', ...changed]),
  check('types', 'tsc', ['--noEmit']),
];
if (sources.length > 0) checks.push(check('lint', 'eslint', ['--no-warn-ignored', ...sources]));
if (inUnits.length > 0)
  checks.push(check('unit tests', 'jest', ['--findRelatedTests', '--passWithNoTests', ...inUnits]));
const failed = (await Promise.all(checks)).filter((name) => name !== null);
if (failed.length > 0) {
  say(`\nNot passed: ${failed.join(', ')}.`);
  process.exit(1);
}
say('\nPassed.');
