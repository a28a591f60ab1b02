/** What a shake file is asked for: what is usual on a bench, what it cannot do, and what is worth knowing beforehand. */

import { bedCentre, insideBed, type Point } from '../bench/bed';
import type { Bench } from '../bench/bench';
import { valueLine, type Setting } from '../bench/settings';
import { shaperSettings, shaperWay } from '../bench/shaper';
import { short, tidy } from '../numbers';
import { problem, type Problem } from '../result';
import type { ShakeAxis } from './marks';

/** What is to be said before anybody shakes a machine. */
export const BEFOREHAND = [
  'It is loud and rough. Tighten belts, screws and the sensor first.',
  'Take prints and tools off the bed. Stop it if something shakes loose.',
  'Start the record while the head stands, before the knock, and end it after the last stroke.',
];

export type ShakeAsked = {
  axis: ShakeAxis;
  /** Band, Hz. */
  from: number;
  to: number;
  /** Peak acceleration of every stroke, mm/s². */
  acceleration: number;
  /** How long one run through the band takes, s. */
  seconds: number;
  /** Middle of the strokes on the bed, and height, mm. */
  at: Point;
  z: number;
  /** Share of full. */
  fan: number;
};

export const BAND_ENDS: [number, number] = [2, 200];
const SECONDS_ENDS: [number, number] = [10, 300];
const LEAST_ACCELERATION = 100;
/** A motor step of usual belts, mm: 80 steps/mm. Shorter strokes are rough, or none. */
const MOTOR_STEP = 0.0125;
/** Acceleration, mm/s², whose strokes are a motor step long at 135 Hz; gentler machines take their own most. */
const USUAL = 3700;
/** Lines a second that usual wires carry. */
const WIRE_LINES = 150;
/** Corners are turned this slow: a stroke begins and ends at rest. */
export const SLOW: [Setting, number][] = [
  ['jerk', 0.05],
  ['deviation', 0.001],
  ['square', 0.1],
];
const DIAGONAL = Math.SQRT1_2;
export const directionsOf = (axis: ShakeAxis): Point[] =>
  axis === 'x'
    ? [{ x: 1, y: 0 }]
    : axis === 'y'
      ? [{ x: 0, y: 1 }]
      : [
          { x: DIAGONAL, y: DIAGONAL },
          { x: DIAGONAL, y: -DIAGONAL },
        ];

/** The largest value along a direction that no axis has less than. */
const along = ({ x, y }: Point, limits: { x: number; y: number }): number =>
  Math.min(
    x === 0 ? Infinity : limits.x / Math.abs(x),
    y === 0 ? Infinity : limits.y / Math.abs(y),
  );
const most = (axis: ShakeAxis, limits: { x: number; y: number }): number =>
  Math.min(...directionsOf(axis).map((one) => along(one, limits)));

export function usualShake({ machine }: Bench, axis: ShakeAxis): ShakeAsked {
  const { x, y } = bedCentre(machine.bed);
  return {
    axis,
    from: 5,
    to: 135,
    // A machine that cannot be told shakes with what it has.
    acceleration: Math.floor(
      Math.min(
        most(axis, machine.limits.acceleration),
        ...(machine.dialect.acceleration === ''
          ? [machine.limits.printAcceleration, machine.limits.travelAcceleration]
          : [USUAL]),
      ),
    ),
    seconds: 65,
    at: { x: tidy(x), y: tidy(y) },
    z: Math.min(30, Math.floor(machine.height / 3)),
    fan: 0,
  };
}

export const strokeOf = (acceleration: number, hz: number): number => acceleration / (16 * hz * hz);

/** Why a file cannot be made; nothing where it can. */
export function faultsIn(asked: ShakeAsked, bench: Bench): Problem[] {
  const { axis, from, to, acceleration, seconds, at, z, fan } = asked;
  const { machine } = bench;
  const { name, limits } = machine;
  const found: Problem[] = [];
  const between = (where: string, value: number, [low, high]: [number, number], unit: string) => {
    if (!(value >= low && value <= high))
      found.push(
        problem(
          where,
          `${short(value)} ${unit} was asked for.`,
          `Give ${short(low)} to ${short(high)} ${unit}.`,
        ),
      );
  };
  between('from', from, BAND_ENDS, 'Hz');
  between('to', to, BAND_ENDS, 'Hz');
  if (!(to >= from + 2))
    found.push(
      problem(
        'to',
        `The band ends at ${short(to)} Hz and begins at ${short(from)} Hz.`,
        'Let it end at least 2 Hz higher.',
      ),
    );
  between('seconds', seconds, SECONDS_ENDS, 's');
  between('fan', fan, [0, 1], 'of full');
  between('z', z, [1, machine.height], 'mm');
  const hardest = most(axis, limits.acceleration);
  if (!(acceleration >= LEAST_ACCELERATION && acceleration <= hardest * 1.0001))
    found.push(
      problem(
        'acceleration',
        `${short(acceleration)} mm/s² was asked for; along ${axis} ${name} takes ${short(hardest, 0)} mm/s².`,
        `Give ${LEAST_ACCELERATION} to ${short(Math.floor(hardest))} mm/s², or correct the machine’s limits.`,
      ),
    );
  if (found.length > 0) return found;
  const [fastest, peak] = [most(axis, limits.speed), acceleration / (4 * from)];
  if (peak > fastest)
    found.push(
      problem(
        'from',
        `At ${short(from)} Hz strokes of ${short(acceleration)} mm/s² reach ${short(peak, 0)} mm/s; ${name} goes ${short(fastest, 0)} mm/s at most.`,
        `Begin at ${short(Math.ceil(acceleration / (4 * fastest)))} Hz, or ask for at most ${short(Math.floor(4 * from * fastest))} mm/s².`,
      ),
    );
  const half = strokeOf(acceleration, from) / 2;
  const off = directionsOf(axis).some(({ x, y }) =>
    [-1, 1].some(
      (side) =>
        insideBed(machine.bed, { x: at.x + side * half * x, y: at.y + side * half * y }) < 0,
    ),
  );
  if (off)
    found.push(
      problem(
        'at',
        `Strokes of ${short(2 * half, 1)} mm about x ${short(at.x)}, y ${short(at.y)} leave the bed.`,
        'Choose a place nearer to the middle of the bed.',
      ),
    );
  return found;
}

/** What is worth knowing before it runs. */
export function notesOn({ acceleration, to }: ShakeAsked, { machine, tuned }: Bench): string[] {
  const { dialect, limits } = machine;
  const notes: string[] = [];
  const coarse = Math.sqrt(acceleration / (16 * MOTOR_STEP));
  if (coarse < to)
    notes.push(
      `Above ${short(coarse, 0)} Hz a stroke is shorter than a motor step of ${MOTOR_STEP} mm: what is found there is rough.`,
    );
  if (2 * to > WIRE_LINES)
    notes.push(
      `At its end it is ${short(2 * to, 0)} lines a second: print it from the machine’s own card or memory, since a wire may not carry that.`,
    );
  if (dialect.acceleration === '')
    notes.push(
      `${machine.name} cannot be told an acceleration: make sure that it has ${short(acceleration)} mm/s².`,
    );
  if (SLOW.every(([setting]) => valueLine(setting, 1, { machine } as Bench) === null))
    notes.push(
      `${machine.name} cannot be told how to turn corners: strokes may not begin at rest.`,
    );
  if (shaperWay(dialect) === 'none')
    notes.push('If the machine has an input shaper, switch it off first: it hides what rings.');
  else if (!shaperSettings(dialect).some((setting) => tuned?.[setting]))
    notes.push('It leaves input shapers off. If the machine has one stored, restart it afterward.');
  if (limits.printAcceleration < acceleration)
    notes.push(
      `It shakes harder than ${machine.name} prints: ${short(acceleration)} instead of ${short(limits.printAcceleration)} mm/s².`,
    );
  return notes;
}
