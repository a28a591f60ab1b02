/** Kinds that are measured: what the numbers say, and how sure that is. */

import fc from 'fast-check';
import { findValue, typedValue } from '../reading/find-value';
import { benchFor, good, told } from '../testing';
import { ringingFrequency } from './acceleration/kind';
import { makeLadder } from './make';
import { spreadOf, within80 } from './measured';
import { kindOf } from './registry';
import type { Measured } from './types';

const foundOf = (
  id: string,
  measured: Measured[],
  machine: 'heron' | 'otter' | 'wren' = 'heron',
) => {
  const bench = benchFor(machine);
  const { plan } = good(makeLadder(id, {}, bench));
  return findValue(good(kindOf(id)), plan, bench, { readings: [], measured });
};

test('extruder steps grow by what was missing, and shrink by what was too much', () => {
  const found = told(foundOf('extruder-steps', [{ left: [25, 25, 25] }]));
  // 120 − 25 = 95 mm came of 100.
  expect(found).toMatchObject({ verdict: 'value', setting: 'steps', value: 105.3 });
  fc.assert(
    fc.property(fc.double({ min: 80, max: 118, noNaN: true }), (fed) => {
      const { value, range } = told(foundOf('extruder-steps', [{ left: [120 - fed] }]));
      expect(value! * fed).toBeCloseTo(100 * 100, -2);
      expect(range![0]).toBeLessThan(value!);
      expect(range![1]).toBeGreaterThan(value!);
    }),
    { seed: 5, numRuns: 40 },
  );
});

test('a rotation distance moves the other way than steps', () => {
  const steps = told(foundOf('extruder-steps', [{ left: [25] }])).value!;
  const turned = told(foundOf('rotation-distance', [{ left: [25] }], 'wren')).value!;
  expect(steps / 100).toBeGreaterThan(1);
  expect(turned / 7.5).toBeCloseTo(0.95, 2);
});

test('flow is what was asked over what was measured, of at least four walls', () => {
  expect(foundOf('flow', [{ wall: [0.45, 0.46, 0.44] }]).ok).toBe(false);
  const found = told(foundOf('flow', [{ wall: [0.48, 0.47, 0.48, 0.47] }]));
  expect(found).toMatchObject({ setting: 'flow', value: 0.95 });
  const both = told(foundOf('flow', [{ wall: [0.48, 0.47] }, { wall: [0.48, 0.47] }]));
  expect(both.value).toBe(0.95);
});

test('walls that differ by more than a twentieth are told, not averaged away', () => {
  const found = foundOf('flow', [{ wall: [0.45, 0.46, 0.52, 0.45] }]);
  expect(found.ok ? [] : found.problems[0]!.what).toContain('sides differ');
  const odd = foundOf('flow', [{ wall: [4.5, 4.5, 4.5, 4.5] }]);
  expect(odd.ok ? [] : odd.problems[0]!.what).toContain('one line');
});

test('the pair that lines up is the offset; two neighbours mean the middle; others are refused', () => {
  const one = told(foundOf('nozzle-alignment', [{ x: [0.2], y: [-0.1] }], 'otter'));
  expect(one).toMatchObject({ setting: 'offsetX', value: 0.2 });
  expect(one.also).toMatchObject([{ setting: 'offsetY', value: -0.1 }]);
  const two = told(foundOf('nozzle-alignment', [{ x: [0.2, 0.3], y: [0] }], 'otter'));
  expect(two.value).toBe(0.25);
  expect(two.range![1] - two.range![0]).toBeLessThan(one.range![1] - one.range![0]);
  const far = foundOf('nozzle-alignment', [{ x: [0.2, 0.5], y: [0] }], 'otter');
  expect(far.ok ? [] : far.problems[0]!.what).toContain('not neighbours');
  const last = told(foundOf('nozzle-alignment', [{ x: [0.5], y: [0] }], 'otter'));
  expect(last.notes[0]).toContain('last one');
});

test('a caliper height on the wall is the value that its layer had, known to half a layer', () => {
  const bench = benchFor('wren');
  const { plan, trace } = good(makeLadder('advance-wall', {}, bench));
  const { z, set } = plan.rungs[4]!;
  const middle = (z.from + z.to) / 2;
  const found = told(foundOf('advance-wall', [{ height: [middle] }], 'wren'));
  expect(found.value).toBeCloseTo(set.advance!, 3);
  expect(found.range![1] - found.range![0]).toBeGreaterThan(
    (plan.layerHeight / Math.sqrt(12)) * plan.rungs[4]!.slope!.advance!,
  );
  // The file itself says the same at that height.
  const line = trace.changes.line;
  expect(line.length).toBeGreaterThan(100);
  const off = foundOf('advance-wall', [{ height: [500] }], 'wren');
  expect(off.ok ? [] : off.problems[0]!.what).toContain('climbs from');
});

test('echoes tell a frequency beside the value', () => {
  expect(ringingFrequency(100, 4, 8)).toBe(50);
  const bench = benchFor('wren');
  const { plan } = good(makeLadder('acceleration', {}, bench));
  const kind = good(kindOf('acceleration'));
  const ringing = plan.rungs.map((_, i) => (i < 5 ? 4 : 1));
  const found = told(
    findValue(kind, plan, bench, {
      readings: [{ ringing }],
      measured: [{ overx: [8], countx: [4] }],
    }),
  );
  expect(found.verdict).toBe('value');
  expect(found.notes).toEqual([`The x axis rings at about ${Number(plan.spec.speed) / 2} Hz.`]);
});

test('the mean of more readings is surer, and never surer than the instrument', () => {
  expect(within80(1, 2)).toBeGreaterThan(within80(1, 4));
  expect(within80(1, 4)).toBeGreaterThan(within80(1, 40));
  expect(spreadOf([1, 1, 1], 0.4)).toBe(0.4);
  expect(spreadOf([0, 2], 0.4)).toBeCloseTo(Math.SQRT2, 9);
});

describe('numbers that cannot be', () => {
  const problems = (found: ReturnType<typeof foundOf>) =>
    found.ok ? [] : found.problems.map(({ where }) => where);
  test('readings of a mark that contradict each other propose nothing', () => {
    expect(problems(foundOf('extruder-steps', [{ left: [119, 20] }]))).toEqual(['left']);
    expect(problems(foundOf('extruder-steps', [{ left: [119] }, { left: [20] }]))).toEqual([
      'left',
    ]);
    expect(problems(foundOf('extruder-steps', [{ left: [24, 25, 26] }]))).toEqual([]);
  });
  test('a result that no feeder has is refused, also by turns', () => {
    expect(problems(foundOf('extruder-steps', [{ left: [90] }]))).toEqual(['left']);
    expect(problems(foundOf('rotation-distance', [{ left: [90] }], 'wren'))).toEqual(['left']);
  });
  test('heights of a wall far apart are no measurement', () => {
    expect(problems(foundOf('advance-wall', [{ height: [12, 40] }]))).toEqual(['height']);
  });
  test('a value typed by hand must lie where the ladder was printed', () => {
    const bench = benchFor('wren');
    const kind = good(kindOf('advance-hairpins'));
    const { plan } = good(makeLadder('advance-hairpins', { to: 0.06 }, bench));
    expect(typedValue(kind, plan, bench, 0.3).ok).toBe(false);
    expect(good(typedValue(kind, plan, bench, 0.03))).toBe(0.03);
    expect(good(typedValue(kind, plan, bench, 0.065))).toBe(0.065);
    expect(typedValue(kind, plan, bench, -0.01).ok).toBe(false);
  });
});
