import { axisOf } from '../plan/axes';
import { along } from './along';

const axis = axisOf('acceleration', [400, 600, 900], 'z');
const rungsAt = (...places: [number, number][]) =>
  places.map(([value, place]) => ({
    set: { acceleration: value },
    z: { from: place - 2, to: place + 2 },
  }));

test('a value lies between the rungs next to it, also where steps grow', () => {
  const at = along(rungsAt([400, 2], [600, 6], [900, 10]), axis)!;
  expect([400, 600, 900].map(at)).toEqual([2, 6, 10]);
  expect(at(500)).toBe(4);
  expect(at(750)).toBe(8);
  // Beyond the ends it goes on as the last step does.
  expect(at(1200)).toBe(14);
  expect(at(300)).toBe(0);
});

test('a ladder that falls is followed downward', () => {
  const at = along(rungsAt([900, 2], [600, 6], [400, 10]), axis)!;
  expect([900, 600, 400].map(at)).toEqual([2, 6, 10]);
});

test('where values are mixed over a print nothing lies between two of them', () => {
  expect(along(rungsAt([400, 6], [600, 2], [900, 10]), axis)).toBeNull();
});
