/**
 * A map of pressure advance over speeds and accelerations: pressure follows faster where more flows, so one value for
 * all is too much for fast lines or too little for slow ones.
 */

import { bedBox, RIM } from '../../bench/bed';
import type { Bench } from '../../bench/bench';
import { inForce } from '../../bench/in-force';
import { SHAPER_FREQUENCIES } from '../../bench/shaper';
import { filamentPerMm, layerHeightOf, surelyMelted } from '../../deposit/conditions';
import { advanceCap, advanceJerk } from '../../motion/plan-motion';
import { clamp, short, snap, tidy } from '../../numbers';
import { axisOf } from '../../plan/axes';
import { MOST_RUNGS } from '../../plan/limits';
import {
  advanceFields,
  bounds,
  reason,
  shared,
  slowBeside,
  testConditions,
  usualRange,
} from '../advance/common';
import { climb, type Range } from '../climb';
import { inBounds } from '../commands';
import { FLAT_FIELDS, PLACED, schemaOf } from '../fields';
import { patternKind } from '../flat-pattern-kind';
import { warn, wholeSteps } from '../guards';
import { BEST_ROWS, type Field, type Warning } from '../types';
import {
  accelerationsOf,
  cellAxis,
  rowsOf,
  sectionOf,
  speedsOf,
  type MapCell,
  type MapSpec,
} from './cells';
import { mapPattern, stridesOf } from './form';

/** Figures of a cell, and how far their range reaches to both sides of the present value, as a share of it. */
const [FIGURES, REACH] = [7, 0.6];
const [SPEEDS, ACCELERATIONS] = [4, 3];
/** The slowest speed and the gentlest acceleration beside the largest. */
const [SLOWEST, GENTLEST] = [0.4, 0.3];
/** Time at full speed, in time constants of the pressure: it has come to rest by then. */
const AT_REST = 2.5;
const [SHORTEST_HOLD, LONGEST_HOLD] = [12, 40];
/** Longest way to speed up, mm: longer ones leave no room for a second cell beside them. */
const LONGEST_RAMP = 30;
/** Way at the slow speed before it, mm. */
const SLOW_LENGTH = 8;
/** Room around the cells, mm: skirt and prime line, and the rim of the bed. */
const AROUND = 2 * (RIM + 8);
/** Height at which the head crosses figures and signs, mm. */
const OVER = 1.2;

const whole = { step: 1, whole: true } as const;
const fields: Record<Exclude<keyof MapSpec, 'growing'>, Field> = {
  ...advanceFields('Front', 'Rear'),
  slowest: { label: 'Slowest', unit: 'mm/s', min: 10, max: 1000, step: 5 },
  fastest: { label: 'Fastest', unit: 'mm/s', min: 15, max: 1000, step: 5 },
  speeds: { label: 'Speeds', unit: '', min: 1, max: 8, ...whole },
  gentlest: { label: 'Gentlest', unit: 'mm/s²', min: 10, max: 100_000, step: 100 },
  hardest: { label: 'Hardest', unit: 'mm/s²', min: 10, max: 100_000, step: 100 },
  accelerations: { label: 'Accelerations', unit: '', min: 1, max: 6, ...whole },
  slow: { label: 'Slow', unit: 'mm/s', min: 5, max: 100, step: 5, folded: true },
  hold: { label: 'Way at full speed', unit: 'mm', min: 5, max: 100, step: 1, folded: true },
  slowLength: { label: 'Slow length', unit: 'mm', min: 5, max: 60, step: 1, folded: true },
  part: { label: 'Print', unit: '', min: 1, max: 48, ...whole },
  ...FLAT_FIELDS,
};

/** Values around the one that is in force; the usual range where none is. */
function rangeAround(bench: Bench): Range {
  const now = inForce(bench).advance;
  if (!(now > 0)) {
    const { from, step } = usualRange(bench, 0.015, 0.15);
    return { from, to: tidy(from + (FIGURES - 1) * step), step };
  }
  const step = Math.max(0.001, tidy(snap((2 * REACH * now) / (FIGURES - 1), 0.001)));
  const from = Math.max(0, tidy(snap(now, 0.001) - ((FIGURES - 1) / 2) * step));
  return { from, to: tidy(from + (FIGURES - 1) * step), step };
}

/** The hardest acceleration: what prints are made with, as far as feeder and axes follow the highest value. */
function hardestOf(bench: Bench, fastest: number, most: number): number {
  const { machine, nozzle } = bench;
  const perMm = filamentPerMm(bench, layerHeightOf(nozzle.diameter));
  const { x, y } = machine.limits.acceleration;
  const feeder = (machine.limits.speed.e / perMm - fastest) / most;
  const left = advanceCap(advanceJerk(machine), most, perMm);
  const all = Math.min(inForce(bench).acceleration, x, y, feeder, left);
  return Math.max(10, all >= 500 ? Math.floor(all / 100) * 100 : Math.floor(all / 10) * 10);
}

function defaults(bench: Bench): MapSpec {
  const layerHeight = layerHeightOf(bench.nozzle.diameter);
  const range = rangeAround(bench);
  const melted = surelyMelted(sectionOf({ layerHeight }, bench), bench);
  const { x, y } = bench.machine.limits.speed;
  const most = Math.min(melted, x, y);
  const hardest = hardestOf(bench, most, range.to);
  const gentlest = roundFor(GENTLEST * hardest);
  // What the gentlest acceleration reaches within the longest ramp.
  const fastest = Math.max(15, Math.min(most, Math.floor(Math.sqrt(2 * gentlest * LONGEST_RAMP))));
  const slowest = Math.max(10, Math.round(SLOWEST * fastest));
  const lag = range.to / (1 + REACH);
  return {
    ...range,
    slow: Math.min(slowBeside(fastest, bench), Math.max(5, Math.floor(slowest / 3))),
    slowest,
    fastest,
    speeds: SPEEDS,
    gentlest,
    hardest,
    accelerations: ACCELERATIONS,
    hold: clamp(Math.ceil(AT_REST * lag * fastest), SHORTEST_HOLD, LONGEST_HOLD),
    slowLength: SLOW_LENGTH,
    part: 1,
    layerHeight,
    ...PLACED,
  };
}

const roundFor = (value: number): number =>
  Math.max(10, value >= 500 ? Math.round(value / 100) * 100 : Math.round(value / 10) * 10);

/** Blocks of cells that one print each has room for, in the order in which they are printed. */
export function partsOf(spec: MapSpec, bench: Bench): MapCell[][][] {
  const rows = rowsOf(spec, bench);
  const { minX, minY, maxX, maxY } = bedBox(bench.machine.bed);
  // The largest square of a round bed is smaller than what it is wide.
  const usable = bench.machine.bed.shape === 'round' ? Math.SQRT1_2 : 1;
  const [wide, deep] = [(maxX - minX) * usable - AROUND, (maxY - minY) * usable - AROUND];
  const { columns, row } = stridesOf(rows, spec, bench);
  const { length: figures } = climb(spec);
  const high = Math.max(1, Math.floor(deep / row));
  const blocks: number[][] = [];
  let width = Infinity;
  columns.forEach((one, column) => {
    if (width + one > wide) {
      blocks.push([]);
      width = 0;
    }
    blocks.at(-1)!.push(column);
    width += one;
  });
  const most = Math.max(
    1,
    Math.floor(MOST_RUNGS / figures / Math.max(...blocks.map((b) => b.length))),
  );
  const rowsOfPart = Math.min(high, most);
  return blocks.flatMap((block) =>
    Array.from({ length: Math.ceil(rows.length / rowsOfPart) }, (_, i) =>
      rows
        .slice(i * rowsOfPart, (i + 1) * rowsOfPart)
        .map((cells) => block.map((column) => cells[column]!)),
    ),
  );
}

/** The block of this print; of a part that is not there, the last. */
function blockOf(spec: MapSpec, bench: Bench): MapCell[][] {
  const parts = partsOf(spec, bench);
  return parts[Math.min(parts.length, spec.part) - 1]!;
}

function check(spec: MapSpec, bench: Bench): Warning[] {
  const { min, max } = bounds(bench);
  const { drive } = bench.machine.extruder;
  return [
    ...wholeSteps(spec, 's'),
    ...inBounds(
      'advance',
      spec,
      { min, max },
      `a ${drive === 'direct' ? 'direct extruder' : 'tube-fed extruder'} needs less than ${short(max)} s`,
    ),
    ...partsSaid(spec, bench),
    ...notReached(spec, bench),
    ...tooFast(spec, bench),
    ...cutShort(spec, bench),
  ];
}

function partsSaid(spec: MapSpec, bench: Bench): Warning[] {
  const parts = partsOf(spec, bench);
  const cells = speedsOf(spec).length * accelerationsOf(spec).length;
  if (parts.length === 1) return [];
  const { part } = spec;
  if (part > parts.length)
    return [
      {
        ...warn(
          'stop',
          'no-such-part',
          'part',
          `Print ${part} was asked for; ${cells} cells take ${parts.length} prints.`,
          'Choose one of them.',
        ),
        offers: [{ label: `Print ${parts.length}`, patch: { part: parts.length } }],
      },
    ];
  const next = part < parts.length ? part + 1 : 1;
  return [
    {
      ...warn(
        'note',
        'split',
        'part',
        `${cells} cells take ${parts.length} prints: this is print ${part} of ${parts.length}, with ${parts[part - 1]!.flat().length} cells.`,
        'Score each; the last finding holds them all.',
      ),
      offers: [{ label: `Print ${next}`, patch: { part: next } }],
    },
  ];
}

/** Cells whose speed is not reached on the longest way that a bed has: the speed under test would not be tested. */
function notReached(spec: MapSpec, bench: Bench): Warning[] {
  const { x, y } = bench.machine.limits.acceleration;
  const { x: vx } = bench.machine.limits.speed;
  const cells = rowsOf(spec, bench).flat();
  const axis = Math.min(x, y);
  const slow = cells.filter(({ speed, acceleration }) => speed > vx || acceleration > axis);
  if (slow.length === 0) return [];
  const which = slow.map(
    ({ speed, acceleration }) => `${short(speed)} mm/s at ${short(acceleration)} mm/s²`,
  );
  return [
    warn(
      'warning',
      'not-reached',
      spec.fastest > vx ? 'fastest' : 'hardest',
      `${slow.length} of ${cells.length} cells are not reached: ${which.slice(0, 3).join(', ')}${slow.length > 3 ? ' and more' : ''}. The axes of ${bench.machine.name} have ${short(vx)} mm/s and ${short(axis)} mm/s².`,
      'Ask for no more than the axes have.',
    ),
  ];
}

/** More than melts is no test of pressure. */
function tooFast(spec: MapSpec, bench: Bench): Warning[] {
  const most = surelyMelted(sectionOf(spec, bench), bench);
  const fastest = Math.max(...speedsOf(spec));
  if (fastest <= most) return [];
  return [
    {
      ...warn(
        'warning',
        'over-melt',
        'fastest',
        `${short(fastest)} mm/s take ${short(fastest * sectionOf(spec, bench), 1)} mm³/s, more than surely melts.`,
        `Ask for ${most} mm/s or less; a melt-flow ladder tells how much this hot end melts.`,
      ),
      offers: [{ label: `Ask for ${most} mm/s`, patch: { fastest: most } }],
    },
  ];
}

/** With a jerk limit of its extruder a machine accelerates less the higher the value is: figures would not be alike. */
function cutShort(spec: MapSpec, bench: Bench): Warning[] {
  const { machine } = bench;
  const perMm = filamentPerMm(bench, spec.layerHeight);
  const most = Math.max(spec.from, spec.to);
  const left = Math.floor(advanceCap(advanceJerk(machine), most, perMm));
  const feeder = perMm * (spec.fastest + most * spec.hardest);
  const hardest = Math.max(...accelerationsOf(spec));
  return [
    ...(hardest > left
      ? [
          {
            ...warn(
              'warning' as const,
              'jerk-cuts-acceleration',
              'hardest',
              `${short(hardest)} mm/s² was asked for; at ${short(most)} s the extruder’s jerk of ${short(advanceJerk(machine))} mm/s leaves ${left} mm/s².`,
              'Ask for no more than the highest value leaves.',
            ),
            offers: [{ label: `Hold ${left} mm/s²`, patch: { hardest: left } }],
          },
        ]
      : []),
    ...(feeder > machine.limits.speed.e
      ? [
          warn(
            'warning' as const,
            'feeder-limit',
            'to',
            `At ${short(most)} s the extruder would have to turn at ${short(feeder, 0)} mm/s; it has ${short(machine.limits.speed.e)} mm/s.`,
            'Choose a lower end, or less acceleration.',
          ),
        ]
      : []),
  ];
}

export const advanceMap = patternKind<MapSpec>({
  ...shared,
  id: 'advance-map',
  title: 'Map of pressure advance',
  decides:
    'Pressure advance for every speed and acceleration, where one value for all does not keep corners clean.',
  standsOn: ['nozzle', 'flow', 'retraction', 'meltFlow', ...SHAPER_FREQUENCIES],
  spec: schemaOf(fields),
  fields,
  sentence:
    '{speeds} speeds from {slowest} to {fastest} mm/s, each at {accelerations} accelerations from {gentlest} to {hardest} ' +
    'mm/s²; in every cell figures from {from} s in front to {to} s at the rear in steps of {step} s. Print {part}.',
  reason: (bench) =>
    reason(
      'Where more flows, pressure follows faster: a value for each speed and acceleration keeps corners clean everywhere.',
      bench,
    ),
  defaults,
  check,
  axes: (spec, bench) => [
    axisOf('advance', climb(spec), 'y'),
    cellAxis(blockOf(spec, bench).flat()),
  ],
  pattern: (spec, bench) => ({
    spec,
    ...mapPattern(blockOf(spec, bench), spec, bench),
    held: lowCorners(bench),
    over: OVER,
  }),
  moved: (spec, { advance }) => ({ ...spec, ...advance }),
  criteria: [
    {
      name: 'evenness',
      weight: 1,
      where: 'beside the arrows: one leg thick where the other is thin',
    },
  ],
  rule: { kind: 'map' },
  measures: [
    {
      key: BEST_ROWS,
      label: 'Best figure of each cell',
      unit: '',
      min: 0,
      max: MOST_RUNGS - 1,
      fewest: 1,
      most: 50,
      how: 'Compare the figures of a cell with each other, and tap the one whose legs are most alike.',
      tapped: true,
    },
  ],
});

/** Corners are held low, so that every figure slows down alike; acceleration is what cells differ in. */
function lowCorners(bench: Bench) {
  const { acceleration: _, ...corners } = testConditions(0, bench);
  return corners;
}
