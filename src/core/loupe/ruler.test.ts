import type { Point } from '../bench/bed';
import { normal, seeded } from '../random';
import { gridStep, HAND_PX, lengthBetween, lengthByCorners, scaleFrom } from './ruler';

test('a length is told by another one that is known', () => {
  const scale = scaleFrom({ x: 100, y: 100 }, { x: 500, y: 400 }, 25, 2)!;
  expect(scale.pxPerMm).toBeCloseTo(20, 9);
  const { mm } = lengthBetween({ x: 0, y: 0 }, { x: 0, y: 90 }, scale, 2);
  expect(mm).toBeCloseTo(4.5, 9);
  expect(scaleFrom({ x: 1, y: 1 }, { x: 2, y: 1 }, 25, 2)).toBeNull();
  expect(scaleFrom({ x: 1, y: 1 }, { x: 200, y: 1 }, 0, 2)).toBeNull();
});

test('its range holds the truth in about 8 of 10, when hands put marks as they do', () => {
  const random = seeded(3);
  const [per, pxPerMm] = [2, 18];
  const put = (x: number, y: number) => ({
    x: x + HAND_PX * per * normal(random),
    y: y + HAND_PX * per * normal(random),
  });
  let held = 0;
  const count = 600;
  for (let i = 0; i < count; i++) {
    const scale = scaleFrom(put(0, 0), put(20 * pxPerMm, 0), 20, per)!;
    const { mm, spread } = lengthBetween(put(0, 50), put(8 * pxPerMm, 50), scale, per);
    if (Math.abs(mm - 8) <= spread) held++;
  }
  expect(held / count).toBeGreaterThan(0.74);
  expect(held / count).toBeLessThan(0.86);
});

test('a grid is never drawn closer than it can be read', () => {
  expect(gridStep(200, 1)).toBe(0.1);
  expect(gridStep(20, 2)).toBe(2);
  expect(gridStep(0.01, 1)).toBe(100);
});

test('a length between two places of a photo is what the corners and the plan make it', () => {
  const photo = { width: 1000, height: 800 };
  const corners: [Point, Point, Point, Point] = [
    { x: 100, y: 700 },
    { x: 900, y: 700 },
    { x: 900, y: 100 },
    { x: 100, y: 100 },
  ];
  // 40 by 30 mm, with 2 mm of air around.
  const flat = { left: -2, bottom: -2, width: 44, height: 34 };
  const length = (a: Point, b: Point) => lengthByCorners({ corners, bulge: 0, flat }, photo, a, b);
  expect(length({ x: 100, y: 400 }, { x: 900, y: 400 })).toBeCloseTo(40, 6);
  expect(length({ x: 300, y: 100 }, { x: 300, y: 700 })).toBeCloseTo(30, 6);
  expect(length({ x: 100, y: 700 }, { x: 900, y: 100 })).toBeCloseTo(50, 6);
});
