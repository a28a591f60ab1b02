import fc from 'fast-check';
import { bedCentre, boxOnBed } from '../bench/bed';
import { axisOf } from '../plan/axes';
import { benchFor, good, makeOn } from '../testing';
import { rect } from '../shape/region';
import { specFor } from './make';
import { kinds, kindOf } from './registry';
import { sizesOf, heightOf, placeOn, stack, towerChecks, type Tower } from './tower';

const SQUARE = rect(0, 0, 20, 20);
const section = { outline: SQUARE, solid: [], walls: 1 };
const PLACED = { skirtLoops: 2, brim: 0, shiftX: 0, shiftY: 0 };

const towerOf = (spec: Partial<Tower['spec']> = {}, rungs = 3): Tower => {
  const full = { ...PLACED, speed: 20, rungHeight: 6, layerHeight: 0.2, ...spec };
  const sizes = sizesOf(full, 0.4);
  return {
    spec: full,
    sizes,
    layers: () =>
      stack(
        sizes,
        rungs,
        () => section,
        () => section,
      ),
    footprint: { minX: 0, maxX: 20, minY: 0, maxY: 20 },
    digits: null,
    axes: [
      axisOf(
        'nozzle',
        Array.from({ length: rungs }, (_, i) => 200 + i),
        'z',
      ),
    ],
  };
};
const codes = (tower: Tower, machine: Parameters<typeof benchFor>[0] = 'heron') =>
  towerChecks(tower, benchFor(machine)).map(({ code }) => code);

test('layers are stacked without a gap: base first, then rung on rung, each of whole layers', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(0.1, 0.15, 0.2, 0.28, 0.3),
      fc.double({ min: 2, max: 20, noNaN: true }),
      fc.integer({ min: 1, max: 12 }),
      (layerHeight, rungHeight, rungs) => {
        const sizes = sizesOf({ layerHeight, rungHeight }, 0.4);
        const layers = stack(
          sizes,
          rungs,
          () => section,
          () => section,
        );
        expect(layers).toHaveLength(sizes.baseLayers + rungs * sizes.rungLayers);
        layers.forEach(({ index, z, parts }, i) => {
          expect(index).toBe(i);
          expect(z).toBeCloseTo((i + 1) * layerHeight, 6);
          const expected = Math.floor((i - sizes.baseLayers) / sizes.rungLayers);
          expect(parts.map(({ rung }) => rung)).toEqual([i < sizes.baseLayers ? null : expected]);
        });
        expect(layers.at(-1)!.z).toBe(heightOf(sizes, rungs));
      },
    ),
    { seed: 14, numRuns: 50 },
  );
});

test('a rung that is no whole number of layers is rounded, and that is noted', () => {
  expect(codes(towerOf())).toEqual([]);
  expect(codes(towerOf({ rungHeight: 6.12 }))).toEqual(['rung-rounded']);
  expect(towerOf({ rungHeight: 6.12 }).sizes.rung).toBeCloseTo(6.2, 9);
});

test('too tall, beside the bed, without room for a prime line, and layers that do not suit are stopped', () => {
  expect(codes(towerOf({ rungHeight: 30 }, 12))).toContain('too-tall');
  expect(codes(towerOf({ shiftX: 200 }))).toContain('off-bed');
  expect(codes(towerOf({ layerHeight: 0.4 }))).toContain('layer-height');
  const wide = { ...towerOf(), footprint: { minX: 0, maxX: 212, minY: 0, maxY: 212 } };
  expect(codes(wide)).toContain('no-prime');
});

const BEAD = { width: 0.45, height: 0.2 };

test('a tower stands in the middle of the bed unless it is moved, with its prime line on the bed', () => {
  for (const machine of ['heron', 'newt', 'otter'] as const) {
    const bench = benchFor(machine);
    const { bed } = bench.machine;
    const print = { minX: -3, maxX: 47, minY: -5, maxY: 15 };
    const { on, prime } = placeOn(bench, PLACED, print, BEAD);
    const centre = bedCentre(bed);
    expect((on.minX + on.maxX) / 2).toBeCloseTo(centre.x, 6);
    expect((on.minY + on.maxY) / 2).toBeCloseTo(centre.y, 6);
    const moved = placeOn(bench, { ...PLACED, shiftX: 10, shiftY: -8 }, print, BEAD);
    expect(moved.on.minX - on.minX).toBeCloseTo(10, 6);
    expect(moved.on.minY - on.minY).toBeCloseTo(-8, 6);
    for (const { x, y } of prime!) {
      expect(boxOnBed(bed, { minX: x, maxX: x, minY: y, maxY: y })).toBe(true);
      const beside = x < on.minX || x > on.maxX || y < on.minY || y > on.maxY;
      expect(beside).toBe(true);
    }
  }
});

long.each(
  kinds()
    .filter(({ draft }) => draft)
    .map((kind) => [kind.id, kind] as const),
)('moved on the bed, %s prints the same moves at another place', (id, kind) => {
  const bench = benchFor(
    (['heron', 'wren', 'otter'] as const).find((one) => !kind.unfit?.(benchFor(one))),
  );
  const [here, there] = [makeOn(bench, id), makeOn(bench, id, { shiftX: 3, shiftY: -2 })];
  const { count } = here.trace.moves;
  expect(there.trace.moves.count).toBe(count);
  for (let i = Math.floor(count / 2); i < count - 50; i += 97) {
    expect(there.trace.moves.z[i]).toBeCloseTo(here.trace.moves.z[i]!, 6);
    expect(there.trace.moves.e[i]).toBeCloseTo(here.trace.moves.e[i]!, 4);
    expect(there.trace.moves.x[i]! - here.trace.moves.x[i]!).toBeCloseTo(3, 2);
    expect(there.trace.moves.y[i]! - here.trace.moves.y[i]!).toBeCloseTo(-2, 2);
  }
});

test('what a kind checks of its own and what every tower has to keep to are told together', () => {
  const kind = good(kindOf('temperature'));
  const bench = benchFor();
  const spec = good(specFor(kind, bench, { from: 400, shiftX: 300 }));
  const told = kind.check(spec, bench).map(({ code }) => code);
  expect(told).toEqual(expect.arrayContaining(['above-hot-end', 'off-bed']));
});
