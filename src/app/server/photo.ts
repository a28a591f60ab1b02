/** Pictures from phones: upright, without what a phone writes into them, and a smaller one to look at. */

import 'server-only';
import sharp from 'sharp';
import { fail, ok, problem, type Result } from '@/core/result';
import { isHeic, MOST_PIXELS } from '@/photo/heic';
import type { NewPhoto } from '@/store/photos';
import { inThread } from './threads';

export const LARGEST_PHOTO = 30 * 2 ** 20;
const LEAST_SIDE = 16;
const PREVIEW_PX = 1600;
const [QUALITY, PREVIEW_QUALITY] = [92, 80];
const KINDS = new Set(['jpeg', 'png', 'webp']);
const LIMITS = { limitInputPixels: MOST_PIXELS, failOn: 'error' } as const;

type Pixels = Pick<NewPhoto, 'jpeg' | 'preview' | 'width' | 'height'>;

/**
 * Decodes a picture and writes it anew, upright: place, device and everything else that stood beside its pixels is
 * gone. Its full size is kept.
 */
export async function photoFrom(bytes: Uint8Array): Promise<Result<Pixels>> {
  try {
    const heic = isHeic(bytes);
    const source = heic ? await fromHeic(bytes) : sharp(bytes, LIMITS);
    const { format } = await source.metadata();
    if (!heic && !KINDS.has(format)) return refused(`a ${format} came`);
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

/** Unpacked in a thread: it takes a second or two. */
async function fromHeic(bytes: Uint8Array): Promise<ReturnType<typeof sharp>> {
  const { width, height, rgb } = await inThread('unpacked', { bytes });
  return sharp(rgb, { raw: { width, height, channels: 3 } });
}

const refused = (why: string): Result<never> =>
  fail(
    problem(
      'picture',
      `This is no picture that can be kept (${why}).`,
      'Take a JPEG, PNG, WebP or HEIC, up to 30 MB.',
    ),
  );
