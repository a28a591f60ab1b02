/** Pictures from phones: upright, without what a phone writes into them, and a smaller one to look at. */

import 'server-only';
import sharp from 'sharp';
import { fail, ok, problem, type Result } from '@/core/result';
import type { NewPhoto } from '@/store/photos';

export const LARGEST_PHOTO = 30 * 2 ** 20;
/** A phone's finest is under it; more would take memory that nobody gains by. */
const MOST_PIXELS = 120_000_000;
const LEAST_SIDE = 16;
const PREVIEW_PX = 1600;
const [QUALITY, PREVIEW_QUALITY] = [92, 80];
const KINDS = new Set(['jpeg', 'png', 'webp']);

type Pixels = Pick<NewPhoto, 'jpeg' | 'preview' | 'width' | 'height'>;

/**
 * Decodes a picture and writes it anew, upright: place, device and everything else that stood beside its pixels is
 * gone. Its full size is kept.
 */
export async function photoFrom(bytes: Uint8Array): Promise<Result<Pixels>> {
  try {
    const source = sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: 'error' });
    const { format } = await source.metadata();
    if (!KINDS.has(format)) return refused(`a ${format} came`);
    const upright = source.rotate().flatten({ background: '#ffffff' });
    const { data, info } = await upright
      .clone()
      .jpeg({ quality: QUALITY, mozjpeg: false })
      .toBuffer({ resolveWithObject: true });
    if (Math.min(info.width, info.height) < LEAST_SIDE) return refused('it has hardly any pixels');
    const preview = await upright
      .clone()
      .resize({ width: PREVIEW_PX, height: PREVIEW_PX, fit: 'inside', withoutEnlargement: true })
      .jpeg({ quality: PREVIEW_QUALITY })
      .toBuffer();
    return ok({ jpeg: data, preview, width: info.width, height: info.height });
  } catch (error) {
    return refused((error as Error).message.split('\n')[0]!.slice(0, 120));
  }
}

const refused = (why: string): Result<never> =>
  fail(
    problem(
      'picture',
      `This is no picture that can be kept (${why}).`,
      'Take a JPEG, PNG or WebP, up to 30 MB.',
    ),
  );
