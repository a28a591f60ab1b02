import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { good } from '../core/testing';
import { pixelsOf } from './decode';
import { isHeic } from './heic';

/** Four fields of one colour each, 240 by 160 pixels: red, green, and below them blue and sand. */
const four = readFileSync(join(__dirname, 'testing/four.heic'));

test('a picture as phones keep it is read, every field in its colour', async () => {
  expect(isHeic(four)).toBe(true);
  const { width, height, rgb } = good(await pixelsOf(four));
  expect([width, height]).toEqual([240, 160]);
  const at = (x: number, y: number) => [...rgb.subarray((y * width + x) * 3).subarray(0, 3)];
  const fields: [number, number, number[]][] = [
    [60, 40, [200, 60, 60]],
    [180, 40, [60, 160, 70]],
    [60, 120, [60, 80, 180]],
    [180, 120, [230, 225, 210]],
  ];
  for (const [x, y, colour] of fields)
    at(x, y).forEach((part, i) => expect(Math.abs(part - colour[i]!)).toBeLessThan(8));
});

test('others are told apart, and a broken one is refused in words', async () => {
  const jpeg = await sharp({
    create: { width: 20, height: 20, channels: 3, background: '#6b2a5b' },
  })
    .jpeg()
    .toBuffer();
  for (const other of [jpeg, Buffer.from('M104 S0'), Buffer.alloc(0)])
    expect(isHeic(other)).toBe(false);
  for (const broken of [four.subarray(0, 60), four.subarray(0, 500)]) {
    const answer = await pixelsOf(broken, 'p.heic');
    if (answer.ok) throw new Error('it was taken');
    expect(answer.problems[0]!.what).toMatch(/^It is not a picture that can be read/);
  }
});
