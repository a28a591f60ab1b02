import { normal, seeded } from '../random';
import { gridStep, HAND_PX, lengthBetween, scaleFrom } from './ruler';

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
