import fc from 'fast-check';
import { bedBox, bedCentre, boxOnBed, insideBed, RIM } from './bed';
import { Bench, benchTitle, Filament, joinBench } from './bench';
import type { Bed } from './machine';
import { MATERIALS, type Material } from './materials';
import { FILAMENTS, filamentOf, MACHINE_KINDS, MACHINES } from './presets';

const beds: Record<string, Bed> = {
  corner: { shape: 'rectangle', width: 220, depth: 200, origin: 'corner' },
  centred: { shape: 'rectangle', width: 220, depth: 200, origin: 'centre' },
  round: { shape: 'round', diameter: 180, origin: 'centre' },
  'round, from a corner': { shape: 'round', diameter: 180, origin: 'corner' },
};

describe.each(Object.entries(beds))('a bed: %s', (_, bed) => {
  test('its middle is the farthest from the rim, its rim is nowhere inside', () => {
    const centre = bedCentre(bed);
    const deepest = insideBed(bed, centre);
    expect(deepest).toBeGreaterThan(80);
    fc.assert(
      fc.property(
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.double({ min: -1, max: 1, noNaN: true }),
        (u, v) => {
          const { minX, maxX, minY, maxY } = bedBox(bed);
          const point = {
            x: centre.x + (u * (maxX - minX)) / 2,
            y: centre.y + (v * (maxY - minY)) / 2,
          };
          expect(insideBed(bed, point)).toBeLessThanOrEqual(deepest + 1e-9);
        },
      ),
      { seed: 81 },
    );
  });

  test('a box fits just as long as all its corners keep from the rim', () => {
    const { x, y } = bedCentre(bed);
    const box = (half: number) => ({
      minX: x - half,
      minY: y - half,
      maxX: x + half,
      maxY: y + half,
    });
    expect(boxOnBed(bed, box(50))).toBe(true);
    expect(boxOnBed(bed, box(101))).toBe(false);
    const most = bed.shape === 'round' ? (90 - RIM) / Math.SQRT2 : 100 - RIM;
    expect(boxOnBed(bed, box(most - 0.01))).toBe(true);
    expect(boxOnBed(bed, box(most + 0.01))).toBe(false);
  });
});

test('every preset is a bench that the program accepts', () => {
  for (const machine of Object.values(MACHINES))
    for (const filament of Object.values(FILAMENTS)) {
      const bench = joinBench(machine, { diameter: 0.4 }, filament);
      expect(Bench.safeParse(bench).error).toBeUndefined();
    }
  expect(Object.keys(MACHINE_KINDS)).toEqual(Object.keys(MACHINES));
});

test.each(Object.keys(MATERIALS) as Material[])('%s is fed no colder than it melts', (material) => {
  const { nozzle, coldest } = MATERIALS[material];
  expect(coldest).toBeLessThan(nozzle.min);
  expect(nozzle.min).toBeLessThan(nozzle.max);
  expect(Filament.safeParse(filamentOf('x', material)).success).toBe(true);
});

test('a label upside down, a name of nothing and a bore of nothing are refused', () => {
  const moss = FILAMENTS.moss;
  expect(Filament.safeParse({ ...moss, nozzle: { min: 230, max: 200 } }).success).toBe(false);
  expect(Filament.safeParse({ ...moss, name: '   ' }).success).toBe(false);
  const bench = joinBench(MACHINES.heron, { diameter: 0 }, moss);
  expect(Bench.safeParse(bench).success).toBe(false);
  expect(Bench.safeParse({ ...bench, version: 2, nozzle: { diameter: 0.4 } }).success).toBe(false);
});

test('a bench is called by its three parts', () => {
  expect(benchTitle(joinBench(MACHINES.newt, { diameter: 0.6 }, FILAMENTS.eel))).toBe(
    'Newt · 0.6 mm · Eel soft TPU',
  );
});
