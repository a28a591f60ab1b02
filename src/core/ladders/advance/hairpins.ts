/** Pressure advance by hairpins: slow, fast, slow, a turn, and the same way back, one value a hairpin. */

import type { Bench } from '../../bench/bench';
import { layerHeightOf } from '../../deposit/conditions';
import { short } from '../../numbers';
import { climb } from '../climb';
import { rearward } from '../climbing';
import { FLAT_FIELDS, PLACED, schemaOf } from '../fields';
import { warn } from '../guards';
import { patternChecks, type FlatPattern } from '../flat-pattern';
import { patternKind } from '../flat-pattern-kind';
import {
  ACCELERATION,
  advanceChecks,
  advanceFields,
  reason,
  shared,
  slowBeside,
  testConditions,
  usualAcceleration,
  usualRange,
  usualSpeed,
} from './common';
import { hairpins } from './flat';

/** Under this ratio of fast to slow the pressure hardly changes. */
const LEAST_RATIO = 3;

const fields = {
  ...advanceFields('Front', 'Rear'),
  slow: { label: 'Slow', unit: 'mm/s', min: 5, max: 100, step: 5 },
  speed: { label: 'Fast', unit: 'mm/s', min: 15, max: 500, step: 5 },
  slowLength: { label: 'Slow length', unit: 'mm', min: 5, max: 60, step: 5, folded: true as const },
  fastLength: {
    label: 'Fast length',
    unit: 'mm',
    min: 5,
    max: 150,
    step: 5,
    folded: true as const,
  },
  acceleration: ACCELERATION,
  ...FLAT_FIELDS,
};
type Spec = { [K in keyof typeof fields]: number };

const patternOf = (spec: Spec, bench: Bench): Omit<FlatPattern, 'axes'> => ({
  spec,
  ...hairpins(climb(spec), spec, bench),
  held: testConditions(spec.acceleration, bench),
});

export const advanceHairpins = patternKind<Spec>({
  ...shared,
  id: 'advance-hairpins',
  title: 'Pressure advance by hairpins',
  spec: schemaOf(fields),
  fields,
  sentence:
    'Climb from {from} s in front to {to} s at the rear in steps of {step} s; each hairpin runs at {slow} mm/s, ' +
    'at {speed} mm/s between the arrows, out and back.',
  reason: (bench) => reason('Flat, and printed in a few minutes.', bench),
  defaults(bench) {
    const { nozzle } = bench;
    const layerHeight = layerHeightOf(nozzle.diameter);
    const speed = Math.max(15, usualSpeed(bench));
    const range = usualRange(bench, 0.005, 0.05);
    const spec: Spec = {
      ...range,
      slow: slowBeside(speed, bench),
      speed,
      slowLength: 15,
      fastLength: 40,
      acceleration: usualAcceleration(bench, speed, range.to),
      layerHeight,
      ...PLACED,
    };
    // A wide nozzle on a small bed gets fewer rungs, then shorter ones.
    const brief = { slowLength: 10, fastLength: 30 };
    const all: Spec[] = [
      spec,
      { ...spec, step: 2 * spec.step },
      { ...spec, ...brief, step: 2 * spec.step },
      { ...spec, ...brief, step: 4 * spec.step },
    ];
    const fits = (one: Spec) => patternChecks(patternOf(one, bench), bench).length === 0;
    return all.find(fits) ?? all.at(-1)!;
  },
  check(spec, bench) {
    return [
      ...advanceChecks(spec, spec.speed, bench),
      ...(spec.speed < LEAST_RATIO * spec.slow
        ? [
            {
              ...warn(
                'warning' as const,
                'speed-ratio',
                'speed',
                `Fast is only ${short(spec.speed / spec.slow, 1)} times slow; under ${LEAST_RATIO} times the pressure hardly changes.`,
                'Choose a higher fast speed or a lower slow one.',
              ),
              offers: [
                {
                  label: `Slow ${Math.max(5, Math.floor(spec.speed / LEAST_RATIO / 5) * 5)} mm/s`,
                  patch: { slow: Math.max(5, Math.floor(spec.speed / LEAST_RATIO / 5) * 5) },
                },
              ],
            },
          ]
        : []),
    ];
  },
  axes: (spec) => rearward('advance', spec),
  pattern: patternOf,
  criteria: [
    {
      name: 'evenness',
      weight: 1,
      where: 'beside the arrows: one leg thick where the other is thin',
    },
    { name: 'gaps', weight: 0.3, where: 'along the fast part' },
  ],
  rule: { kind: 'best', saferSide: 'lower' },
});

/** The name under which straight strokes were printed before: their readings are found as those of hairpins are. */
export const advanceStrokes: typeof advanceHairpins = {
  ...advanceHairpins,
  id: 'advance-strokes',
  title: 'Pressure advance by strokes',
  now: advanceHairpins.id,
};
