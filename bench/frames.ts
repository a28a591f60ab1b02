/** How long one picture of a large file takes, in a browser that draws in software. */

import { chromium } from '@playwright/test';
import { MACHINES } from '../src/core/bench/presets';
import { seeded } from '../src/core/random';
import { CHROMIUM_FLAGS } from '../scripts/chromium-flags.mjs';
import { CHROMIUM } from '../scripts/bootstrap.mjs';
import { median, row } from './measure';

const MOVES = 300_000;

/** A vase of many sides: every stroke is short, and most of them are in sight. */
function vase(): string {
  const random = seeded(8);
  const { width, depth } = MACHINES.heron.bed as { width: number; depth: number };
  const lines = ['G28', 'M109 S205', 'M83'];
  const around = 1000;
  for (let i = 0; i < MOVES; i++) {
    const turn = Math.floor(i / around);
    if (i % around === 0) lines.push(`G0 Z${(0.2 * (turn + 1)).toFixed(2)} F6000`);
    const angle = ((i % around) / around) * 2 * Math.PI;
    const radius = 40 + 10 * Math.sin(turn / 30) + 0.3 * random();
    const x = width / 2 + radius * Math.cos(angle);
    const y = depth / 2 + radius * Math.sin(angle);
    lines.push(`G1 X${x.toFixed(3)} Y${y.toFixed(3)} E0.01${i % around === 0 ? ' F3000' : ''}`);
  }
  return `${lines.join('\n')}\n`;
}

/** @param address of a running program */
export async function frameTimes(address: string): Promise<void> {
  const browser = await chromium.launch({ executablePath: CHROMIUM, args: CHROMIUM_FLAGS });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`${address}/through`);
    const start = performance.now();
    await page
      .getByLabel('G-code file')
      .setInputFiles({ name: 'vase.gcode', mimeType: 'text/plain', buffer: Buffer.from(vase()) });
    await page.getByRole('tab', { name: 'Passport' }).waitFor({ timeout: 60_000 });
    await page.waitForFunction(`document.querySelector('canvas')?.scene !== undefined`);
    row('opening 300,000 moves', `${(performance.now() - start).toFixed(0)} ms to the passport`);
    await page.waitForTimeout(3000);
    // As text: what the bundler adds to functions does not exist in the page.
    const times = async (turn: string) =>
      (
        (await page.evaluate(`(() => {
          const { scene } = document.querySelector('canvas');
          return Array.from({ length: 15 }, () => (${turn}, scene.timedFrame()));
        })()`)) as number[]
      ).sort((a, b) => a - b);
    const say = (name: string, sorted: number[]) =>
      row(
        name,
        `median ${median(sorted).toFixed(0)} ms, slowest ${sorted.at(-1)!.toFixed(0)} ms, drawn in software`,
      );
    say('frame of 300,000 moves, at rest', await times('0'));
    say('  while the view turns', await times('scene.turn(0.05, 0)'));
  } finally {
    await browser.close();
  }
}
