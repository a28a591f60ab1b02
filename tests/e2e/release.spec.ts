// The archive of a release, installed where nothing of the sources is: both commands, on an empty store and on the demo's.
import { expect, test, type Page } from '@playwright/test';
import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import {
  cpSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { demoData } from './own-server';

const folder = mkdtempSync(join(tmpdir(), 'ash-release-'));
const bin = (name: string) => join(folder, 'bin', name);
const running: ChildProcess[] = [];
test.afterAll(() => {
  for (const one of running) one.kill('SIGTERM');
  rmSync(folder, { recursive: true, force: true });
});

test.beforeAll(() => {
  execFileSync('node', ['scripts/release.mjs'], { stdio: ['ignore', 'ignore', 'inherit'] });
  const archive = readdirSync('release').find((name) => name.endsWith('.tgz'))!;
  // Packages come from the cache where they are in it, and the driver as it was compiled for the tests: that takes minutes.
  const how = ['--prefer-offline', '--ignore-scripts', '--no-audit', '--no-fund'];
  execFileSync('npm', ['install', '-g', '--prefix', folder, ...how, resolve('release', archive)], {
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  const driver = 'node_modules/better-sqlite3/build';
  cpSync(driver, join(folder, 'lib/node_modules/ash-ladder', driver), { recursive: true });
});

/** Starts the installed program. @returns its address */
function serve(data: string, port: number): Promise<string> {
  const child = spawn(bin('ash-ladder'), ['--data', data, '--port', String(port)], {
    cwd: folder,
    env: { ...process.env, ASH_KEY: 'off' },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  running.push(child);
  return new Promise((found, reject) => {
    child.stdout.on('data', (text) => {
      const at = /is at (http:\S+)/.exec(String(text));
      if (at) found(at[1]!);
    });
    child.on('exit', (code) => reject(new Error(`it ended with ${code}`)));
  });
}

async function heading(page: Page, address: string): Promise<string> {
  const errors: string[] = [];
  page.on('pageerror', ({ message }) => errors.push(message));
  await page.goto(address);
  const first = page.getByRole('heading', { level: 1 });
  await expect(first).toBeVisible();
  expect(errors).toEqual([]);
  return first.innerText();
}

test('`ash` makes a ladder that its audit passes', { tag: '@long' }, () => {
  const ash = (...args: string[]) =>
    execFileSync(bin('ash'), args, { cwd: folder, encoding: 'utf8' });
  const { version } = JSON.parse(readFileSync('package.json', 'utf8')) as { version: string };
  expect(execFileSync(bin('ash-ladder'), ['--version'], { encoding: 'utf8' }).trim()).toBe(version);
  execFileSync('sh', ['-c', `${bin('ash')} bench --preset heron > b.json`], { cwd: folder });
  ash('make', 'retraction', '--bench', 'b.json', '--out', 'r.gcode');
  expect(JSON.parse(ash('audit', 'r.gcode', '--bench', 'b.json', '--json'))).toMatchObject({
    findings: [],
  });
});

test(
  'it serves an empty store, one of an earlier program, and the demo’s, with what is worked out in threads',
  { tag: '@long' },
  async ({ page }) => {
    const empty = await serve(join(folder, 'empty'), 4761);
    expect(await heading(page, empty)).toContain('A handful of numbers');
    // A store of an earlier program: it opens, with a copy beside it.
    const older = join(folder, 'older');
    mkdirSync(older);
    const old = gunzipSync(readFileSync('src/store/testing/store-5.sqlite.gz'));
    writeFileSync(join(older, 'ash.sqlite'), old);
    const upgraded = await serve(older, 4765);
    await heading(page, `${upgraded}/ladder/1/finding`);
    expect(readdirSync(older).some((name) => name.startsWith('ash.sqlite.before-'))).toBe(true);
    const data = join(folder, 'demo');
    cpSync(demoData(), data, { recursive: true });
    const demo = await serve(data, 4763);
    for (const path of ['/bench/1', '/ladder/1/design', '/ladder/1/finding', '/inspect'])
      await heading(page, demo + path);
  },
);
