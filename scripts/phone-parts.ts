/** What the scripts that try the door of phones share: a program of their own, a code from it, a phone let in. */

import { chromium, type Browser, type Page } from '@playwright/test';
import { ownServer, type OwnServer } from '../tests/e2e/own-server';
import { CHROMIUM_FLAGS } from './chromium-flags.mjs';
import { CHROMIUM, ensureBuild, ensureChromium, ensurePackages } from './bootstrap.mjs';

/** A loopback address that is not the one the program is at: no real network is ever touched. */
export const LAN = '127.0.0.2';

export type Tried = { server: OwnServer; browser: Browser; computer: Page };

/** The demo with its store in a folder of its own, and the computer's page for phones. */
export async function startTrying(port: number, args: string[]): Promise<Tried> {
  ensurePackages();
  ensureChromium();
  ensureBuild();
  const server = await ownServer('demo', port, { args });
  const browser = await chromium.launch({ executablePath: CHROMIUM, args: CHROMIUM_FLAGS });
  const computer = await browser.newPage();
  await computer.goto(`${server.address}/phones`);
  return { server, browser, computer };
}

/** Has a new code shown at the computer. */
export async function newCode(computer: Page): Promise<string> {
  const name = computer.getByLabel('Who scores at this computer?');
  const show = computer.getByRole('button', { name: /^Show a (new )?code$/ });
  await name.or(show).first().waitFor();
  if (!(await show.isVisible())) {
    await name.fill('Ines');
    await computer.getByRole('button', { name: 'Save name' }).click();
  }
  await show.click();
  return (await computer.getByLabel(/^Code \d{6}$/).innerText()).replace(/\D/g, '');
}

/** `--name 3`, or `--name=3`, of the command line. */
export function numberAsked(name: string, otherwise: number): number {
  const found = new RegExp(`--${name}[= ](\\d+)`).exec(process.argv.slice(2).join(' '));
  return found ? Number(found[1]) : otherwise;
}
