import fc from 'fast-check';
import { layerAt, layerPlaces } from './layer-axis';

test('layers stand at their heights', () => {
  expect([...layerPlaces([0.2, 0.4, 1])]).toEqual([0.2, 0.4, 1]);
});

test('layers of one thing after the other stand in their order', () => {
  expect([...layerPlaces([0.2, 0.4, 0.2, 0.4])]).toEqual([0.25, 0.5, 0.75, 1]);
});

test('a place means the nearest layer', () => {
  const places = layerPlaces([0.2, 0.4, 1]);
  expect([0, 0.29, 0.31, 0.69, 0.71, 1].map((at) => layerAt(places, at))).toEqual([
    0, 0, 1, 1, 2, 2,
  ]);
  expect(layerAt(layerPlaces([]), 0.5)).toBe(-1);
});

test('every layer is meant by its own place', () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: 0.05, max: 400, noNaN: true }), { minLength: 1 }),
      (z) => {
        const places = layerPlaces(z);
        for (let i = 0; i < z.length; i++)
          expect(places[layerAt(places, places[i]!)]).toBe(places[i]);
      },
    ),
  );
});
