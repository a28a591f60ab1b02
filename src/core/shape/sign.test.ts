import { strokesOf, textWidth } from './digits';
import { area, boxOf, contains } from './region';
import { mirrored, signAt, signTall } from './sign';

const SIZE = { unit: 1.3, stroke: 0.9 };

test('a sign is as wide and tall as it says, and full along every stroke', () => {
  const sign = signAt('205', 4, -2, SIZE);
  const { minX, minY, maxX, maxY } = boxOf(sign);
  expect([minX, minY]).toEqual([4, -2]);
  expect(maxX - minX).toBeCloseTo(textWidth('205') * SIZE.unit + SIZE.stroke, 3);
  expect(maxY - minY).toBeCloseTo(signTall(SIZE), 3);
  for (const [x0, y0, x1, y1] of strokesOf('205')) {
    const x = 4 + ((x0 + x1) / 2) * SIZE.unit + SIZE.stroke / 2;
    const y = -2 + ((y0 + y1) / 2) * SIZE.unit + SIZE.stroke / 2;
    expect(contains(sign, { x, y })).toBe(true);
  }
});

test('mirrored twice a sign is itself, and once it is as much plastic', () => {
  const sign = signAt('64', 0, 0, SIZE);
  const seen = mirrored(sign, 3);
  expect(area(seen)).toBeCloseTo(area(sign), 6);
  const back = mirrored(seen, 3);
  back.flat().forEach(({ x, y }, i) => {
    expect(x).toBeCloseTo(sign.flat()[i]!.x, 9);
    expect(y).toBe(sign.flat()[i]!.y);
  });
  const [own, other] = [boxOf(sign), boxOf(seen)];
  expect(other.minX).toBeCloseTo(6 - own.maxX, 6);
});
