import sharp from 'sharp';
import type { Pixels } from '../pixels';

/** As a phone would keep it. */
export async function asJpeg({ width, height, rgb }: Pixels, quality = 88): Promise<Pixels> {
  const bytes = await sharp(rgb, { raw: { width, height, channels: 3 } })
    .jpeg({ quality })
    .toBuffer();
  return { width, height, rgb: await sharp(bytes).raw().toBuffer() };
}
