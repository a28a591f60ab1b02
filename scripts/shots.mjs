/** `npm run shots`: one picture of each main view, made from the demo data, into docs/screenshots. */

import { chromium } from '@playwright/test';
import { spawn } from 'node:child_process';
import { mkdtempSync, mkdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { CHROMIUM, ensureBuild, ensureChromium, ensurePackages, ROOT } from './bootstrap.mjs';
import { CHROMIUM_FLAGS } from './chromium-flags.mjs';

ensurePackages();
ensureChromium();
ensureBuild();
const out = process.env.SHOTS_TO ?? join(ROOT, 'docs/screenshots');
const only = process.argv.slice(2);
mkdirSync(out, { recursive: true });
/** Another loopback address stands for the local network. */
const LAN = '127.0.0.2';
const data = mkdtempSync(join(tmpdir(), 'ash-shots-'));
const server = spawn('node', ['scripts/demo.mjs', '--lan', LAN], {
  cwd: ROOT,
  env: { ...process.env, ASH_DATA: data, PORT: '4790', ASH_UNDERSTUDY_SPEED: '40' },
  stdio: ['ignore', 'pipe', 'inherit'],
});
const address = await new Promise((resolve) =>
  server.stdout.on('data', (text) => {
    const found = /is at (http:\S+)/.exec(String(text));
    if (found) resolve(found[1]);
  }),
);
const lan = address.replace('127.0.0.1', LAN);
const browser = await chromium.launch({ executablePath: CHROMIUM, args: CHROMIUM_FLAGS });
const WIDE = { width: 1280, height: 800 };
const PHONE = { width: 390, height: 844 };

/** Links the machine of the demo to the simulated one that stands ready for it. */
async function linked(page) {
  await page.getByRole('button', { name: /^Simulated: / }).click();
  await page.getByRole('table').waitFor();
  await page.waitForTimeout(2500);
}

/** A machine that has forgotten a value of the ledger. */
async function differing(page) {
  await linked(page);
  await page.getByText('Talk to the machine').click();
  const say = async (line) => {
    await page.getByLabel('Line for the machine').fill(line);
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Read again' }).click();
    await page.waitForTimeout(1500);
  };
  await say('M900 K0.45');
  await page.getByRole('button', { name: 'Take pressure advance into the ledger' }).click();
  await page.waitForTimeout(1500);
  await say('M900 K0');
  await page.getByRole('button', { name: 'Read what is stored' }).click();
  await page.getByRole('heading', { name: /not in the machine/ }).waitFor();
  await page.waitForTimeout(1500);
  await page.getByText('Talk to the machine').click();
  await page.evaluate(() => window.scrollTo(0, 0));
}

/** A ladder in the middle of being printed over the wire. */
async function printing(page) {
  await page.goto(`${address}/ladder/1/print`);
  await page.getByRole('button', { name: 'Print on Heron, simulated' }).click();
  await page.getByText(/^Printing rung 5 of 8/).waitFor({ timeout: 180_000 });
  await page.waitForTimeout(3000);
}

/** Name, path, size, theme, and what is done before the picture. */
const VIEWS = [
  ['bench', '/bench/2', WIDE],
  ['design', '/ladder/1/design', WIDE, 'ash', drawn],
  ['print', '/ladder/1/print', WIDE],
  ['sections', '/graft/1', WIDE, 'ash', drawn],
  ['inspect', '/inspect?file=1', WIDE, 'ash', seen],
  ['inspect-phone', '/inspect?file=1', PHONE, 'ash', seen],
  ['read', '/ladder/1/read', WIDE],
  ['read-phone', '/ladder/1/read', PHONE],
  ['finding', '/ladder/1/finding', WIDE, 'ash', curve],
  ['phones', '/phones', WIDE, 'ash', withCode],
  ['understudy-read', '/ladder/2/read', WIDE, 'ash', settled],
  ['grid-finding', '/ladder/4/finding', WIDE, 'ash', settled],
  ['map-finding', '/ladder/6/finding', WIDE, 'ash', settled],
  ['proof-finding', '/ladder/7/finding', WIDE, 'ash', settled],
  ['measure', '/ladder/5/read', WIDE, 'workshop', settled],
  ['shake', '/bench/2/shake', WIDE, 'ash', settled],
  ['loupe', '/ladder/2/loupe', WIDE, 'ash', threadsShown],
  ['wire', '/bench/1/machine', WIDE, 'ash', differing],
  // On the machine that is linked by now.
  ['printing', '/ladder/1/print', WIDE, 'ash', printing],
];

async function drawn(page) {
  await page.locator('canvas').first().waitFor();
  await page.waitForTimeout(600);
}
async function settled(page) {
  await page.waitForTimeout(700);
}
/** The measure that differs most from rung to rung. */
async function threadsShown(page) {
  await page.getByRole('list', { name: 'Measures' }).getByText('Threads').click();
  await settled(page);
}
async function withCode(page) {
  await page.getByRole('button', { name: 'Show a code' }).click();
  await page.getByRole('timer').waitFor();
  await settled(page);
}

/** Lets a phone in. @returns what its browser keeps */
async function letIn() {
  const computer = await browser.newPage();
  await computer.goto(`${address}/phones`);
  await computer.getByLabel('Who scores at this computer?').fill('Ines');
  await computer.getByRole('button', { name: 'Save name' }).click();
  await withCode(computer);
  const code = await computer.getByLabel(/^Code \d{6}$/).innerText();
  const context = await browser.newContext({ viewport: PHONE });
  const page = await context.newPage();
  await page.goto(`${lan}/pair?code=${code.replace(/\D/g, '')}`);
  await page.getByLabel('Your name').fill('Ines');
  await page.getByLabel('Name of this device').fill('Phone at the bench');
  await page.getByRole('button', { name: 'Let me in' }).click();
  await page.getByRole('heading', { name: 'Next' }).waitFor();
  const kept = await context.storageState();
  await context.close();
  await computer.close();
  return kept;
}

async function seen(page) {
  await page.getByRole('tab', { name: 'File check' }).waitFor();
  await page.waitForTimeout(2500);
}
async function curve(page) {
  await page.locator('[aria-label^="Looks best"] svg').waitFor();
  await page.waitForTimeout(400);
}

let failed = false;
try {
  const phone = await letIn();
  for (const [name, path, viewport, theme = 'ash', before] of VIEWS) {
    if (only.length > 0 && !only.includes(name)) continue;
    const onPhone = viewport === PHONE;
    const context = await browser.newContext({
      viewport,
      reducedMotion: 'reduce',
      ...(onPhone ? { storageState: phone, hasTouch: true, isMobile: true } : {}),
    });
    context.setDefaultTimeout(20_000);
    const at = onPhone ? lan : address;
    await context.addCookies([{ name: 'theme', value: theme, url: at }]);
    const page = await context.newPage();
    // A page keeps a connection open for what changes elsewhere: the network is never idle.
    await page.goto(at + path, { waitUntil: 'load' });
    await page.evaluate(() => document.fonts.ready);
    await settled(page);
    if (before) await before(page);
    await page.screenshot({ path: join(out, `${name}.png`) });
    await context.close();
  }
} catch (error) {
  failed = true;
  console.error(error);
}
await browser.close();
server.kill('SIGTERM');
rmSync(data, { recursive: true, force: true });
process.exit(failed ? 1 : 0);
