/** The mark of the program as pixels, for the home screen of a phone. */

import 'server-only';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';

const GROUND = '#f4f1ea';
/** Of the whole width, what home screens never cut off. */
const SAFE = 0.72;
/** Pixels an inch at which the drawing is taken before it is scaled. */
const DENSITY = 1200;

const made = new Map<number, Promise<Buffer>>();

/** @param size px a side @returns a PNG that fills its square */
export function icon(size: number): Promise<Buffer> {
  const known = made.get(size) ?? draw(size);
  made.set(size, known);
  return known;
}

async function draw(size: number): Promise<Buffer> {
  const svg = await readFile(join(process.cwd(), 'src/app/icon.svg'));
  const inner = Math.round(size * SAFE);
  const mark = await sharp(svg, { density: DENSITY }).resize(inner, inner).png().toBuffer();
  return sharp({ create: { width: size, height: size, channels: 3, background: GROUND } })
    .composite([{ input: mark }])
    .png()
    .toBuffer();
}
