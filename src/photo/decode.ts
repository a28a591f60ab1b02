/** Pictures as files and as pixels. What stands beside the pixels in a file, place and device, is read by nobody. */

import sharp from 'sharp';
import type { Pixels } from '../core/loupe/pixels';
import { fail, ok, problem, type Result } from '../core/result';
import { isHeic, MOST_PIXELS, unpackHeic } from './heic';

/** Pixels of a JPEG, PNG, WebP or HEIC, upright, on white where it is clear. */
export async function pixelsOf(bytes: Uint8Array, where = 'picture'): Promise<Result<Pixels>> {
  try {
    if (isHeic(bytes)) return ok(await unpackHeic(bytes));
    const { data, info } = await sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: 'error' })
      .rotate()
      .flatten({ background: '#ffffff' })
      .toColourspace('srgb')
      .raw()
      .toBuffer({ resolveWithObject: true });
    if (info.channels === 3) return ok({ width: info.width, height: info.height, rgb: data });
    return fail(
      problem(where, `It has ${info.channels} colours a pixel.`, 'Save it as JPEG or PNG.'),
    );
  } catch (error) {
    const why = (error as Error).message.split('\n')[0]!.slice(0, 120);
    return fail(
      problem(
        where,
        `It is not a picture that can be read (${why}).`,
        'Take a JPEG, PNG, WebP or HEIC.',
      ),
    );
  }
}

/** A JPEG of pixels. */
export const jpegOf = ({ width, height, rgb }: Pixels, quality: number): Promise<Uint8Array> =>
  sharp(rgb, { raw: { width, height, channels: 3 } })
    .jpeg({ quality })
    .toBuffer();
