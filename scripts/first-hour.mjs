/**
 * `npm run first-hour`: how many clicks, keys and seconds of waiting three ways through the program take, as a person
 * would go them: the first finding from an empty store on the simulated machine, a bench of one's own to a downloaded
 * file, and a tower of eight scored on a phone's width. Measured, and printed; nothing is asserted.
 */

import { chromium } from '@playwright/test';
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { CHROMIUM, ensureBuild, ensureChromium, ensurePackages, ROOT } from './bootstrap.mjs';
import { CHROMIUM_FLAGS } from './chromium-flags.mjs';

ensurePackages();
ensureChromium();
ensureBuild();
const PORT = '4795';
const LONGEST_MS = 120_000;

/** A server on an empty store. */
async function started() {
  const data = mkdtempSync(join(tmpdir(), 'ash-hour-'));
  const child = spawn('node', ['scripts/start.mjs'], {
    cwd: ROOT,
    env: { ...process.env, ASH_DATA: data, ASH_KEY: 'off', PORT },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const address = await new Promise((resolve) =>
    child.stdout.on('data', (text) => {
      const found = /is at (http:\S+)/.exec(String(text));
      if (found) resolve(found[1]);
    }),
  );
  const stop = async () => {
    const over = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGTERM');
    await over;
    rmSync(data, { recursive: true, force: true });
  };
  return { address, stop };
}

/** A person who counts what is pressed, and how long nothing can be done. */
function person(page) {
  const counted = { clicks: 0, keys: 0, waited: 0 };
  const awaited = async (target) => {
    const from = performance.now();
    await target.first().waitFor({ timeout: LONGEST_MS });
    counted.waited += (performance.now() - from) / 1000;
    return target.first();
  };
  return {
    counted,
    awaited,
    async press(target) {
      await (await awaited(target)).click();
      counted.clicks++;
    },
    async type(target, text) {
      await (await awaited(target)).fill(text);
      counted.clicks++;
      counted.keys += text.length;
    },
    async key(key) {
      await page.keyboard.press(key);
      counted.keys++;
    },
  };
}

const button = (page, name) => page.getByRole('button', { name });
const link = (page, name) => page.getByRole('link', { name });

const WAYS = {
  'first finding, empty store, simulated machine': async (page, { press, key, awaited }) => {
    await press(button(page, 'Try it without a printer'));
    await press(button(page, 'Generate file'));
    await press(button(page, 'Print on the understudy'));
    await awaited(button(page, 'Zoom in'));
    // As much as it takes until a finding is there.
    if (!(await page.getByText('Every second rung was scored for you').isVisible())) {
      await press(button(page, 'by criterion'));
      for (const score of '12344320') await key(score);
    }
    await press(link(page, /^(the finding|Finding)$/));
    await awaited(page.getByRole('heading', { name: /^Proposed/ }));
  },
  'a bench of one’s own to a downloaded file': async (page, { press, type, awaited }) => {
    await press(link(page, 'Set up a bench'));
    await type(page.getByLabel(/^(Machine’s|Its) name$/), 'Heron');
    await type(page.getByLabel(/^(Filament’s|Its) name$/).last(), 'Moss');
    await press(button(page, 'Make this bench'));
    await press(page.locator('main .btn-main').filter({ hasText: /ladder/i }));
    await press(button(page, 'Generate file'));
    await awaited(page.getByRole('heading', { name: 'Ready to print' }));
    const file = page.waitForEvent('download', { timeout: LONGEST_MS });
    await press(link(page, /^Download/));
    await file;
  },
  'a tower of eight scored on a phone': async (page, { press, awaited, counted }) => {
    await press(button(page, 'Try it without a printer'));
    await press(button(page, 'Generate file'));
    await press(button(page, /^Printed: score it|^Score it$/));
    await awaited(page.getByText('of 8 from the bottom'));
    Object.assign(counted, { clicks: 0, keys: 0, waited: 0 });
    const scored = page.getByText(/^\d+ \/ 48$/);
    while ((await scored.innerText()) !== '48 / 48')
      await press(page.getByRole('button', { name: /^[0-4] / }).nth(counted.clicks % 5));
    await press(link(page, 'See the finding'));
    await awaited(page.getByRole('heading', { name: /^(Proposed|No effect|The answer)/ }));
  },
};

const browser = await chromium.launch({ executablePath: CHROMIUM, args: CHROMIUM_FLAGS });
for (const [way, walk] of Object.entries(WAYS)) {
  const server = await started();
  const phone = way.includes('phone');
  const page = await browser.newPage(
    phone
      ? { viewport: { width: 390, height: 844 }, hasTouch: true }
      : { viewport: { width: 1280, height: 800 } },
  );
  page.setDefaultTimeout(LONGEST_MS);
  await page.goto(server.address);
  const one = person(page);
  const from = performance.now();
  await walk(page, one);
  const { clicks, keys, waited } = one.counted;
  console.log(
    `${way}: ${clicks} ${phone ? 'taps' : 'clicks'}, ${keys} keys, ${waited.toFixed(1)} s of waiting, ${((performance.now() - from) / 1000).toFixed(1)} s in all`,
  );
  await page.close();
  await server.stop();
}
await browser.close();
