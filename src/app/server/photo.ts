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
export const photoFrom = (bytes: Uint8Array, device = ''): Promise<Result<Pixels>> =>
  inTurn(device, () => decoded(bytes));

/** Pixels that are unpacked at once, over all: a picture of a hundred million takes 400 MB. One of a device at a time. */
const MOST_UNPACKED = 130_000_000;
/** What a picture counts as whose size is known only once it is unpacked. */
const UNKNOWN_PIXELS = 50_000_000;
const shared = globalThis as {
  ashPhotoTurns?: Map<string, Promise<unknown>>;
  ashUnpacking?: { pixels: number; waiting: { pixels: number; go: () => void }[] };
};

function inTurn<T>(device: string, work: () => Promise<T>): Promise<T> {
  const turns = (shared.ashPhotoTurns ??= new Map<string, Promise<unknown>>());
  const turn = (turns.get(device) ?? Promise.resolve()).then(work);
  const settled = turn.catch(() => undefined);
  turns.set(device, settled);
  void settled.then(() => turns.get(device) === settled && turns.delete(device));
  return turn;
}

/** Waits until there is room for so many pixels beside what is unpacked already; first come, first served. */
async function withRoom<T>(pixels: number, work: () => Promise<T>): Promise<T> {
  const all = (shared.ashUnpacking ??= { pixels: 0, waiting: [] });
  const fits = (more: number) => all.pixels === 0 || all.pixels + more <= MOST_UNPACKED;
  if (all.waiting.length > 0 || !fits(pixels))
    await new Promise<void>((go) => all.waiting.push({ pixels, go }));
  else all.pixels += pixels;
  try {
    return await work();
  } finally {
    all.pixels -= pixels;
    while (all.waiting.length > 0 && fits(all.waiting[0]!.pixels)) {
      const next = all.waiting.shift()!;
      all.pixels += next.pixels;
      next.go();
    }
  }
}

/** Pixels of a picture as its head says, before any of them is unpacked. @throws where it is no picture */
async function pixelsSaid(bytes: Uint8Array): Promise<number> {
  if (isHeic(bytes)) return UNKNOWN_PIXELS;
  const { width = 0, height = 0 } = await sharp(bytes, { limitInputPixels: false }).metadata();
  if (width * height > MOST_PIXELS) throw new Error(`it has ${width} × ${height} pixels`);
  return width * height;
}

async function decoded(bytes: Uint8Array): Promise<Result<Pixels>> {
  try {
    return await withRoom(await pixelsSaid(bytes), () => unpacked(bytes));
  } catch (error) {
    return refused((error as Error).message.split('\n')[0]!.slice(0, 120));
  }
}

async function unpacked(bytes: Uint8Array): Promise<Result<Pixels>> {
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
      `This is not a picture that can be kept (${why}).`,
      'Take a JPEG, PNG, WebP or HEIC, up to 30 MB.',
    ),
  );
