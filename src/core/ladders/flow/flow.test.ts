import fc from 'fast-check';
import { beadArea, roundArea } from '../../deposit/bead';
import { findValue } from '../../reading/find-value';
import { benchFor, good, makeOn, movesOf, told } from '../../testing';
import { kindOf } from '../registry';
import { askedWall } from './wall';

const bench = benchFor();
const section = roundArea(bench.filament.diameter);

describe('by a wall', () => {
  const made = makeOn(bench, 'flow');
  const kind = good(kindOf('flow'));
  const asked = askedWall(made.plan.spec as { layerHeight: number }, bench.nozzle.diameter);

  test('is one bead thick, as wide as is asked for, all the way up', () => {
    const { z } = made.plan.rungs[0]!;
    const walls = movesOf(made, 'extrude').filter(({ to }) => to.z > z.from + 0.3 && to.z < z.to);
    expect(walls.length).toBeGreaterThan(100);
    const area = beadArea(asked, made.plan.layerHeight);
    for (const { e, length } of walls.filter((one) => one.length > 5))
      expect((e * section) / length / area).toBeCloseTo(1, 2);
    // Four sides a layer: nothing inside.
    const heights = new Set(walls.map(({ to }) => to.z));
    expect(walls.filter(({ length }) => length > 5).length).toBe(4 * heights.size);
  });

  test('what is in force is in the file, so that it is not corrected twice', () => {
    const tuned = { ...bench, tuned: { flow: 0.94 } };
    const { plan } = makeOn(tuned, 'flow');
    expect(plan.rungs[0]!.set.flow).toBe(0.94);
    const found = told(
      findValue(kind, plan, tuned, {
        readings: [],
        measured: [{ wall: [asked, asked, asked, asked] }],
      }),
    );
    expect(found.value).toBe(0.94);
  });

  test('a wall thinner by a share asks for more flow by that share, and its range holds it', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.8, max: 1.2, noNaN: true }), (share) => {
        const wall = [1.005, 0.995, 1, 1].map((one) => asked * share * one);
        const { value, range } = told(
          findValue(kind, made.plan, bench, { readings: [], measured: [{ wall }] }),
        );
        expect(Math.abs(value! - 1 / share)).toBeLessThan(0.006);
        expect(range![0]).toBeLessThanOrEqual(1 / share + 0.005);
        expect(range![1]).toBeGreaterThanOrEqual(1 / share - 0.005);
      }),
      { seed: 3, numRuns: 60 },
    );
  });
});

describe('by patches', () => {
  const made = makeOn(bench, 'flow-patches');
  const { rungs, layerHeight } = made.plan;
  /** Plastic a millimetre of fill, mm³, in a layer of a pad. */
  const plastic = (index: number, layer: number): number => {
    const { minX, maxX, minY, maxY } = rungs[index]!.boxes![0]!;
    const own = movesOf(made, 'extrude').filter(
      ({ from, to }) =>
        Math.abs(to.z - (layer + 1) * layerHeight) < 0.01 &&
        Math.min(from.x, to.x) > minX &&
        Math.max(from.x, to.x) < maxX &&
        Math.min(from.y, to.y) > minY &&
        Math.max(from.y, to.y) < maxY,
    );
    const [e, length] = own.reduce(([a, b], one) => [a + one.e, b + one.length], [0, 0]);
    return (e * section) / length;
  };

  test('all but the first layer are laid with the flow of their pad', () => {
    const [first, last] = [0, rungs.length - 1];
    expect(plastic(last, 0) / plastic(first, 0)).toBeCloseTo(1, 2);
    for (const layer of [1, 2, 3, 4])
      rungs.forEach(({ set }, index) =>
        expect(plastic(index, layer) / plastic(first, 0)).toBeCloseTo(set.flow!, 2),
      );
  });

  test('pads are crossed well above them', () => {
    for (const { rung, from, to, length } of movesOf(made, 'travel'))
      if (rung >= 0 && length > 8) expect(Math.max(from.z, to.z)).toBeGreaterThanOrEqual(3);
  });
});
