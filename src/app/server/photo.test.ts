/** Pictures from phones, as they are kept. */

import sharp from 'sharp';
import { readFileSync } from 'node:fs';
import { good } from '@/core/testing';
import { unpackHeic } from '@/photo/heic';
import { photoFrom } from './photo';

jest.mock('server-only', () => ({}));
jest.mock('./threads', () => ({
  inThread: (_: string, { bytes }: { bytes: Uint8Array }) => unpackHeic(bytes),
}));

const PLUM = { r: 107, g: 42, b: 91 };
const picture = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: PLUM } });
const metaOf = (bytes: Uint8Array) => sharp(bytes).metadata();

test('what stands beside the pixels is gone: place, device, and all else', async () => {
  const told = await picture(300, 200)
    .withExif({
      IFD0: { Make: 'A phone', Copyright: 'Somebody' },
      IFD3: { GPSLatitude: '51/1 30/1 0/1', GPSLongitude: '0/1 7/1 0/1' },
    })
    .jpeg()
    .toBuffer();
  expect((await metaOf(told)).exif).toBeDefined();
  const kept = good(await photoFrom(told));
  for (const bytes of [kept.jpeg, kept.preview]) {
    const { exif, xmp, iptc, format } = await metaOf(bytes);
    expect([exif, xmp, iptc]).toEqual([undefined, undefined, undefined]);
    expect(format).toBe('jpeg');
    expect(Buffer.from(bytes).toString('latin1')).not.toContain('A phone');
  }
});

test('one that was held upright stands upright, in its full size and in the small one', async () => {
  // Turned a quarter by its mark alone: 300 wide as it is stored, 200 wide as it is seen.
  const turned = await picture(300, 200).withMetadata({ orientation: 6 }).jpeg().toBuffer();
  const kept = good(await photoFrom(turned));
  expect([kept.width, kept.height]).toEqual([200, 300]);
  expect(await metaOf(kept.jpeg)).toMatchObject({ width: 200, height: 300 });
  expect((await metaOf(kept.jpeg)).orientation ?? 1).toBe(1);
});

test('the full size is kept, and the small one is small enough to look at', async () => {
  const kept = good(await photoFrom(await picture(4000, 2000).jpeg().toBuffer()));
  expect(await metaOf(kept.jpeg)).toMatchObject({ width: 4000, height: 2000 });
  expect(await metaOf(kept.preview)).toMatchObject({ width: 1600, height: 800 });
  // A small one is not blown up.
  const small = good(await photoFrom(await picture(120, 80).png().toBuffer()));
  expect(await metaOf(small.preview)).toMatchObject({ width: 120, height: 80 });
});

test('one as many phones keep it becomes a JPEG like any other', async () => {
  const four = readFileSync('src/photo/testing/four.heic');
  const kept = good(await photoFrom(four));
  expect([kept.width, kept.height]).toEqual([240, 160]);
  expect((await metaOf(kept.jpeg)).format).toBe('jpeg');
  const answer = await photoFrom(four.subarray(0, 300));
  expect(answer.ok).toBe(false);
});

test('what is see-through stands on white', async () => {
  const clear = await sharp({
    create: { width: 40, height: 40, channels: 4, background: { r: 0, g: 0, b: 0, alpha: 0 } },
  })
    .png()
    .toBuffer();
  const { jpeg } = good(await photoFrom(clear));
  const [red] = await sharp(jpeg).raw().toBuffer();
  expect(red).toBeGreaterThan(250);
});

test.each([
  ['no picture at all', async () => Buffer.from('M104 S0\n')],
  ['nothing', async () => Buffer.alloc(0)],
  ['half of one', async () => (await picture(600, 400).jpeg().toBuffer()).subarray(0, 900)],
  [
    'a drawing that could ask for things',
    async () => Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="99" height="99"/>'),
  ],
  ['a moving one', async () => picture(60, 60).gif().toBuffer()],
  ['a speck', async () => picture(4, 400).png().toBuffer()],
])('%s is refused in words', async (_, bytes) => {
  const answer = await photoFrom(await bytes());
  if (answer.ok) throw new Error('it was taken');
  expect(answer.problems[0]!.what).toMatch(/^This is not a picture that can be kept \(.+\)\.$/);
  expect(answer.problems[0]!.mend).toContain('JPEG, PNG, WebP or HEIC');
});
