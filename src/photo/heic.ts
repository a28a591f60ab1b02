/** Pictures as many phones keep them, in HEIC, which sharp does not read. */

import type { Pixels } from '../core/loupe/pixels';

/** A phone's finest is under it; more would take memory that nobody gains by. */
export const MOST_PIXELS = 120_000_000;

/** Brands of such files (ISO/IEC 23008-12): a single picture, or one of a row. */
const BRANDS = new Set(['heic', 'heix', 'hevc', 'hevx', 'mif1', 'msf1']);

/** Whether bytes begin as such a file does. AVIF, in the same box but with another brand, is none. */
export const isHeic = (bytes: Uint8Array): boolean => {
  const text = String.fromCharCode(...bytes.subarray(4, 12));
  return text.startsWith('ftyp') && BRANDS.has(text.slice(4));
};

/**
 * Its first picture, upright as the file says.
 *
 * @throws where it is broken, or has more than {@link MOST_PIXELS}
 */
export async function unpackHeic(bytes: Uint8Array): Promise<Pixels> {
  // Large, and needed by few.
  const { default: decode } = await import('heic-decode');
  const images = await quietly(() => decode.all({ buffer: bytes }));
  try {
    const [first] = images;
    if (!first) throw new Error('no picture is in it');
    const { width, height } = first;
    if (width * height > MOST_PIXELS) throw new Error(`it has ${width} × ${height} pixels`);
    const { data } = await quietly(() => first.decode());
    const rgb = new Uint8Array(width * height * 3);
    for (let i = 0, at = 0; i < rgb.length; i += 3, at += 4) {
      rgb[i] = data[at]!;
      rgb[i + 1] = data[at + 1]!;
      rgb[i + 2] = data[at + 2]!;
    }
    return { width, height, rgb };
  } finally {
    images.dispose();
  }
}

/** The library tells of broken files on the console, where a command's answer stands; what it throws says as much. */
async function quietly<T>(run: () => Promise<T>): Promise<T> {
  const { log } = console;
  console.log = () => undefined;
  try {
    return await run();
  } finally {
    console.log = log;
  }
}
