/** `npm test`: format, lint, types, unit tests, and the built app in a real browser. */

import { spawn } from 'node:child_process';
import { bin, CHROMIUM, ensureBuild, readyForTests, ROOT, say } from './bootstrap.mjs';

const began = Date.now();
/** Runs one step to its end. @returns its title where it failed */
const step = (title, command, args, env = {}) =>
  new Promise((resolve) => {
    const at = Date.now();
    say(`— ${title}`);
    const child = spawn(command, args, {
      cwd: ROOT,
      stdio: 'inherit',
      env: { ...process.env, ...env },
    });
    // Where another step fails, nothing is left running.
    process.on('exit', () => child.kill());
    child.on('exit', (code) => {
      say(`— ${title}: ${Math.round((Date.now() - at) / 1000)} s`);
      resolve(code === 0 ? null : title);
    });
  });
/** Ends everything where one of the steps failed. */
async function passed(...steps) {
  const failed = (await Promise.all(steps)).filter((title) => title !== null);
  if (failed.length === 0) return;
  say(`Not passed: ${failed.join(', ')}.`);
  process.exit(1);
}

await readyForTests();
// What needs one core stands beside what needs one.
const lint = step('lint', bin('eslint'), ['.']);
await passed(step('format', bin('prettier'), ['--check', '.', '--log-level', 'warn']));
say('— build');
ensureBuild();
await passed(lint);
await passed(step('types', bin('tsc'), ['--noEmit']), step('unit tests', bin('jest'), ['--ci']));
// What is only slow is `npm run test:long`.
const quick = ['test', '--grep-invert', '@long'];
await passed(step('browser tests', bin('playwright'), quick, { ASH_CHROMIUM: CHROMIUM }));
say(`All steps passed, in ${((Date.now() - began) / 60_000).toFixed(1)} minutes.`);
