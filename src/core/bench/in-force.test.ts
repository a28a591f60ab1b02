/** What a bench has, what a file brings of it, and what a print finds missing in the nozzle. */

import { DIALECTS } from '../dialect/dialect';
import { benchFor } from '../testing';
import { addedOffset, foundByCommand, inForce, knownBefore } from './in-force';
import { drawnAtEnd } from './machine';
import { addsUp, isKept, SETTING_NAMES } from './settings';

const bench = benchFor();
const tuned = (values: object) => ({ ...bench, tuned: values });

test('what was found stands before what a machine starts with', () => {
  expect(inForce(bench).acceleration).toBe(1000);
  expect(inForce(tuned({ acceleration: 800 })).acceleration).toBe(800);
});

test('a file brings what a command sets and every print feels, and nothing else', () => {
  const all = { advance: 0.4, jerk: 6, acceleration: 800, flow: 0.97, retraction: 4, nozzle: 205 };
  expect(foundByCommand(tuned(all))).toEqual({ advance: 0.4, jerk: 6, acceleration: 800 });
  expect(foundByCommand(bench)).toEqual({});
  // A machine that cannot be told is not told.
  const mute = { ...bench.machine, dialect: { ...DIALECTS.A, advance: '' } };
  expect(foundByCommand({ ...tuned(all), machine: mute })).toEqual({ jerk: 6, acceleration: 800 });
});

test('pressure advance is known where somebody found it, or said it of the machine', () => {
  expect(knownBefore('advance', bench)).toBe(false);
  expect(knownBefore('advance', tuned({ advance: 0 }))).toBe(true);
  expect(knownBefore('advance', { ...bench, machine: { ...bench.machine, advance: 0 } })).toBe(
    true,
  );
  expect(knownBefore('jerk', bench)).toBe(true);
});

test('an offset that the machine has is added by no file', () => {
  const low = tuned({ zOffset: -0.04 });
  expect(addedOffset(bench)).toBe(0);
  expect(addedOffset(low)).toBe(-0.04);
  expect(addedOffset({ ...low, carried: ['zOffset'] })).toBe(0);
  // That something else is in the machine changes nothing of it.
  expect(addedOffset({ ...low, carried: ['advance'] })).toBe(-0.04);
  expect(SETTING_NAMES.filter(addsUp)).toEqual(['zOffset']);
});

test('what a machine can store is asked for, what is entered where one slices is not', () => {
  expect(SETTING_NAMES.filter(isKept).sort()).toEqual(
    [
      'acceleration',
      'advance',
      'deviation',
      'jerk',
      'rotation',
      'shaper',
      'shaperDamping',
      'shaperDampingX',
      'shaperDampingY',
      'shaperType',
      'shaperTypeX',
      'shaperTypeY',
      'shaperX',
      'shaperY',
      'square',
      'steps',
      'zOffset',
    ].sort(),
  );
});

test.each([
  ['', 0],
  ['G1 E-4.5 F1800', 4.5],
  ['G91\nG1 E-2 Z5 F600\ng1 e-1.5', 3.5],
  ['; G1 E-9', 0],
  ['G1 X0 ; E-9 once', 0],
  ['G1 E5\nG92 E0', 0],
  ['G1 E-80 F300', 10],
])('an end block %j leaves the nozzle %p mm short', (block, drawn) => {
  expect(drawnAtEnd(block)).toBeCloseTo(drawn, 9);
});
