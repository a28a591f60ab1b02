import fc from 'fast-check';
import { good, makeOn, benchFor } from '../testing';
import { kindOf } from '../ladders/registry';
import { pushes } from './pushes';

test('parts add up to the whole, and none is longer than firmware takes', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 200_000 }), (micrometres) => {
      const mm = micrometres / 1000;
      const parts = pushes(mm);
      expect(parts.reduce((sum, one) => sum + one, 0)).toBeCloseTo(mm, 6);
      for (const one of parts) expect(one).toBeLessThanOrEqual(40.001);
      expect(Math.max(...parts) - Math.min(...parts)).toBeLessThan(0.01);
    }),
  );
  expect(pushes(30)).toEqual([30]);
});

test('a ladder of extruder steps feeds its length in such parts', () => {
  expect(good(kindOf('rotation-distance')).finds).toEqual(['rotation']);
  const { text } = makeOn(benchFor('wren'), 'rotation-distance');
  expect(text.match(/^G1 E33\.33/gm)).toHaveLength(3);
  expect(text).not.toMatch(/^G1 E100\b/m);
});
