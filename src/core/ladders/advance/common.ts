/** What the ladders of pressure advance share: ranges, test conditions, limits, and how a value is carried. */

import type { Bench } from '../../bench/bench';
import { inForce } from '../../bench/in-force';
import { MATERIALS } from '../../bench/materials';
import { beadArea } from '../../deposit/bead';
import { beadWidthOf, filamentPerMm, layerHeightOf, surelyMelted } from '../../deposit/conditions';
import { advanceCap, advanceJerk } from '../../motion/plan-motion';
import { short, tidy } from '../../numbers';
import { type Setting, type Values, valueLine } from '../../bench/settings';
import { atMost, carryByCommand, inBounds, needsCommand, standsAt } from '../commands';
import type { Range } from '../climb';
import { movedTo } from '../climbing';
import { rangeFields } from '../fields';
import { warn, wholeSteps } from '../guards';
import type { LadderKind, Warning } from '../types';

/** Behind a tube and a wide nozzle little is left of it, mm/s². */
const LEAST_ACCELERATION = 10;

/** Acceleration that is held for the test. */
export const ACCELERATION = {
  label: 'Acceleration of the test',
  unit: 'mm/s²',
  min: LEAST_ACCELERATION,
  max: 100_000,
  step: 100,
  folded: true,
} as const;

const ENDS: [number, number] = [0, 2];
export const advanceFields = (foot: string, top: string) =>
  rangeFields('advance', ENDS, 0.001, [foot, top]);

/** Soft filament gives way itself: its pressure takes longer, by so much. */
const SOFTER = { direct: 4, tube: 2 };

/** Pressure behind a long tube is slower by about ten times. */
export function usualRange({ machine, filament }: Bench, direct: number, tube: number): Range {
  const { drive } = machine.extruder;
  const times = MATERIALS[filament.material].soft ? SOFTER[drive] : 1;
  const [to, step] = drive === 'direct' ? [0.1, direct] : [1, tube];
  return { from: 0, to: tidy(to * times), step: tidy(step * times) };
}

/** Corner settings at which a machine slows down enough in a corner for pressure to show. */
const LOW_CORNER: [Setting, number][] = [
  ['jerk', 5],
  ['deviation', 0.01],
  ['square', 3],
];

/** A low corner speed and a fixed acceleration, so that every rung slows down alike. */
export function testConditions(acceleration: number, bench: Bench): Values {
  const told = valueLine('acceleration', acceleration, bench) !== null;
  return { ...(told ? { acceleration } : {}), ...atMost(LOW_CORNER, bench) };
}

export const bounds = ({ machine }: Bench): { min: number; max: number } => ({
  min: 0,
  max: machine.extruder.drive === 'direct' ? 0.5 : 2,
});

/** Checks that all three have. `speed` is the fast one, mm/s. */
export function advanceChecks(
  spec: Range & { acceleration: number; layerHeight: number },
  speed: number,
  bench: Bench,
): Warning[] {
  const { machine } = bench;
  const most = Math.max(spec.from, spec.to);
  const perMm = filamentPerMm(bench, spec.layerHeight);
  // While speed changes, the feeder turns faster by K times the acceleration of the filament.
  const feeder = perMm * (speed + most * spec.acceleration);
  const axis = Math.min(machine.limits.acceleration.x, machine.limits.acceleration.y);
  return [
    ...wholeSteps(spec, 's'),
    ...inBounds(
      'advance',
      spec,
      bounds(bench),
      `a ${machine.extruder.drive === 'direct' ? 'direct extruder' : 'tube-fed extruder'} needs less than ${short(bounds(bench).max)} s`,
    ),
    ...(spec.acceleration > axis
      ? [
          warn(
            'warning',
            'acceleration-cut',
            'acceleration',
            `${short(spec.acceleration)} mm/s² was asked for; an axis of ${machine.name} has ${short(axis)} mm/s².`,
            'Ask for no more than the axes have.',
          ),
        ]
      : []),
    ...heldByJerk(spec.acceleration, most, perMm, bench),
    ...(feeder > machine.limits.speed.e
      ? [
          warn(
            'warning',
            'feeder-limit',
            'to',
            `At ${short(most)} s the extruder would have to turn at ${short(feeder, 0)} mm/s; it has ${short(machine.limits.speed.e)} mm/s, so the upper rungs are cut short.`,
            'Choose a lower end, or less acceleration.',
          ),
        ]
      : []),
  ];
}

/**
 * With a jerk limit of its extruder a machine accelerates less the higher the value is: rungs would differ in more
 * than what climbs. All are held to what the highest leaves.
 */
function heldByJerk(acceleration: number, most: number, perMm: number, bench: Bench): Warning[] {
  const jerk = advanceJerk(bench.machine);
  const left = advanceCap(jerk, most, perMm);
  if (left >= ofPrints(bench)) return [];
  const why = `at ${short(most)} s the extruder’s jerk of ${short(jerk)} mm/s leaves ${short(left, 0)} mm/s²`;
  const fits = heldTo(left, 10);
  return acceleration <= left
    ? [
        warn(
          'note',
          'held-by-jerk',
          'acceleration',
          `All rungs are held to ${short(acceleration, 0)} mm/s²: ${why}.`,
          'A higher jerk of the extruder, or a lower end, allows more.',
        ),
      ]
    : [
        {
          ...warn(
            'warning',
            'jerk-cuts-acceleration',
            'acceleration',
            `${short(acceleration, 0)} mm/s² was asked for; ${why}, so the rungs would not be alike.`,
            'Hold all of them to what the highest allows.',
          ),
          offers: [{ label: `Hold ${fits} mm/s²`, patch: { acceleration: fits } }],
        },
      ];
}

/** Members that are alike in all three kinds. */
export const shared = {
  finds: ['advance'] as const,
  standsOn: ['nozzle', 'flow', 'retraction'] as const,
  unfit: (bench: Bench) => needsCommand('advance', bench),
  bounds: (bench: Bench) => ({ advance: bounds(bench) }),
  moved: movedTo('advance'),
  carry: carryByCommand,
  otherCause:
    'Pressure advance makes no difference here. When every rung bulges the same, the range may be ' +
    'far too low for this extruder; when every rung is thin, look at flow and temperature.',
} satisfies Partial<LadderKind>;

export const reason = (how: string, bench: Bench): string => {
  const drive =
    bench.machine.extruder.drive === 'direct' ? 'a direct extruder' : 'a tube-fed extruder';
  return `${how} The range is usual for ${drive}. ${standsAt('advance', bench)}`;
};

/**
 * Speed of the test, mm/s: what prints are made with. Much faster, and even the best value leaves so much behind
 * that no rung looks clean.
 */
export function usualSpeed(bench: Bench): number {
  const { machine, nozzle } = bench;
  const bead = beadArea(beadWidthOf(nozzle.diameter), layerHeightOf(nozzle.diameter));
  return Math.max(10, Math.min(machine.speeds.print, surelyMelted(bead, bench)));
}

/** Slow speed beside a fast one, mm/s. Behind a tube pressure takes so long to settle that slower shows no more. */
export const slowBeside = (speed: number, { machine }: Bench): number => {
  const [most, share] = machine.extruder.drive === 'direct' ? [10, 8] : [20, 4];
  return Math.max(5, Math.min(most, Math.floor(speed / share)));
};

/** Acceleration of the test: what prints are made with, within axes and feeder. */
export function usualAcceleration(bench: Bench, speed: number, most: number): number {
  const { machine, nozzle } = bench;
  const perMm = filamentPerMm(bench, layerHeightOf(nozzle.diameter));
  const feeder = (machine.limits.speed.e / perMm - speed) / most;
  const asked = ofPrints(bench);
  const byFeeder = asked <= feeder ? asked : heldTo(feeder, 50);
  return Math.min(byFeeder, heldTo(advanceCap(advanceJerk(machine), most, perMm), 10));
}

/** What prints are accelerated with, within what axes have, mm/s². */
const ofPrints = (bench: Bench): number => {
  const { x, y } = bench.machine.limits.acceleration;
  return Math.min(inForce(bench).acceleration, x, y);
};

/** A round acceleration at or under a limit. */
const heldTo = (limit: number, round: number): number =>
  Math.max(LEAST_ACCELERATION, Math.floor(limit / round) * round);
