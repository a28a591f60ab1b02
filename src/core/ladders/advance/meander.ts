/** Pressure advance by a meander: right angles in both senses, laid twice side by side, one value a figure. */

import type { Bench } from '../../bench/bench';
import { layerHeightOf } from '../../deposit/conditions';
import { climb } from '../climb';
import { rearward } from '../climbing';
import { FLAT_FIELDS, PLACED, schemaOf } from '../fields';
import type { FlatPattern } from '../flat-pattern';
import { patternKind } from '../flat-pattern-kind';
import {
  ACCELERATION,
  advanceChecks,
  advanceFields,
  reason,
  shared,
  testConditions,
  usualAcceleration,
  usualRange,
  usualSpeed,
} from './common';
import { meander } from './flat';

/** Share of the usual speed at which turns are taken. */
const TURN_SPEED = 0.6;
/** Share of a side that should run at the speed asked for. */
const REACH = 0.55;

const fields = {
  ...advanceFields('Front', 'Rear'),
  speed: { label: 'Speed', unit: 'mm/s', min: 5, max: 500, step: 5 },
  side: { label: 'Length of a side', unit: 'mm', min: 4, max: 40, step: 1 },
  acceleration: ACCELERATION,
  ...FLAT_FIELDS,
};
type Spec = { [K in keyof typeof fields]: number };

const patternOf = (spec: Spec, bench: Bench): Omit<FlatPattern, 'axes'> => ({
  spec,
  ...meander(climb(spec), spec, bench),
  held: testConditions(spec.acceleration, bench),
});

export const advanceMeander = patternKind<Spec>({
  ...shared,
  id: 'advance-meander',
  title: 'Pressure advance by a meander',
  spec: schemaOf(fields),
  fields,
  sentence:
    'Climb from {from} s in front to {to} s at the rear in steps of {step} s; meanders with sides of {side} mm ' +
    'at {speed} mm/s.',
  reason: (bench) => reason('Corners show what the eye minds most.', bench),
  defaults(bench) {
    const { nozzle } = bench;
    const layerHeight = layerHeightOf(nozzle.diameter);
    const range = usualRange(bench, 0.01, 0.1);
    // Slower than prints: turns are harsher than a change of speed along a line.
    const fastest = Math.floor(TURN_SPEED * usualSpeed(bench));
    const acceleration = usualAcceleration(bench, fastest, range.to);
    // A wide nozzle lays wide figures; shorter sides leave room for all of them.
    const side = nozzle.diameter > 0.8 ? 6 : 9;
    const reached = Math.floor(Math.sqrt(acceleration * side * (1 - REACH)) / 5) * 5;
    return {
      ...range,
      speed: Math.max(5, Math.min(fastest, reached)),
      side,
      acceleration,
      layerHeight,
      ...PLACED,
    };
  },
  check: (spec, bench) => advanceChecks(spec, spec.speed, bench),
  axes: (spec) => rearward('advance', spec),
  pattern: patternOf,
  criteria: [
    { name: 'corners', weight: 1, where: 'at the turns, on the free flank of each bead' },
    { name: 'gaps', weight: 0.4, where: 'between the two beads, just after a turn' },
  ],
  rule: { kind: 'best', saferSide: 'lower' },
});

/** The name under which zigzags were printed before. */
export const advanceCorners: typeof advanceMeander = {
  ...advanceMeander,
  id: 'advance-corners',
  title: 'Pressure advance by corners',
  now: advanceMeander.id,
};
