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

/** Makes a file of 100 MB in the page and drops it there: a print of 1 MB, higher and higher. */
const LARGE_FILE = `(() => {
  const head = 'G28\\nM109 S205\\nM83\\n';
  const parts = [head];
  let size = head.length;
  for (let layer = 1; size < 100 * 1024 * 1024; layer++) {
    let text = 'G0 Z' + (0.2 * layer).toFixed(2) + ' F6000\\n';
    for (let i = 0; i < 4000; i++)
      text += 'G1 X' + (60 + (i % 97) * 0.731).toFixed(3) + ' Y' + (60 + (i % 89) * 0.613).toFixed(3) + ' E0.04321\\n';
    parts.push(text);
    size += text.length;
  }
  const transfer = new DataTransfer();
  transfer.items.add(new File(parts, 'large.gcode'));
  const input = document.querySelector('input[type=file]');
  input.files = transfer.files;
  input.dispatchEvent(new Event('change', { bubbles: true }));
})()`;

/** @param address of a running program */
export async function frameTimes(address: string): Promise<void> {
  const browser = await chromium.launch({ executablePath: CHROMIUM, args: CHROMIUM_FLAGS });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`${address}/inspect`);
    const start = performance.now();
    await page
      .getByLabel('G-code file')
      .setInputFiles({ name: 'vase.gcode', mimeType: 'text/plain', buffer: Buffer.from(vase()) });
    await page.getByRole('tab', { name: 'File check' }).waitFor({ timeout: 60_000 });
    await page.waitForFunction(`document.querySelector('canvas')?.scene !== undefined`);
    row('opening 300,000 moves', `${(performance.now() - start).toFixed(0)} ms to the file check`);
    await page.waitForTimeout(3000);
    // As text: what the bundler adds to functions does not exist in the page.
    const times = async (turn: string) =>
      (
        await page.evaluate<number[]>(`(() => {
          const { scene } = document.querySelector('canvas');
          return Array.from({ length: 15 }, () => (${turn}, scene.timedFrame()));
        })()`)
      ).sort((a, b) => a - b);
    const say = (name: string, sorted: number[]) =>
      row(
        name,
        `median ${median(sorted).toFixed(0)} ms, slowest ${sorted.at(-1)!.toFixed(0)} ms, drawn in software`,
      );
    say('frame of 300,000 moves, at rest', await times('0'));
    say('  while the view turns', await times('scene.turn(0.05, 0)'));
    await page.goto(`${address}/inspect`);
    const before = performance.now();
    await page.evaluate(LARGE_FILE);
    await page.getByRole('tab', { name: 'File check' }).waitFor({ timeout: 120_000 });
    row('opening 100 MB in the browser', `${((performance.now() - before) / 1000).toFixed(1)} s`);
  } finally {
    await browser.close();
  }
}
