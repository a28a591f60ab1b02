/** Acceleration and cornering: how hard a machine may be driven before its corners ring. */

import type { Bench } from '../../bench/bench';
import { inForce } from '../../bench/in-force';
import { beadArea } from '../../deposit/bead';
import { beadWidthOf, filamentPerMm, surelyMelted } from '../../deposit/conditions';
import { clamp, short, snap } from '../../numbers';
import type { Plan } from '../../plan/plan';
import { ok, problem, type Problem } from '../../result';
import { advanceCap, advanceJerk } from '../../motion/plan-motion';
import { settingInfo, type Setting, type Values } from '../../bench/settings';
import { SHAPER_FREQUENCIES } from '../../bench/shaper';
import { climb, type Range } from '../climb';
import { labelsOf } from '../climbing';
import { atMost, carryByCommand, inBounds, needsCommand, standsAt } from '../commands';
import { choice, rangeFields, schemaOf, TOWER_FIELDS, type SpecOf } from '../fields';
import { warn, wholeSteps } from '../guards';
import { climbs, climbSentence, usualWalls, formed } from '../one-setting';
import { towerKind } from '../tower-kind';
import type { LadderKind, Measured, Warning } from '../types';
import { AXES, footprint, formOf, layersOf } from './form';

type Facet = {
  id: string;
  title: string;
  setting: Setting;
  model?: 'jerk' | 'junction-deviation' | 'square-corner';
  ends: [number, number];
  range: (bench: Bench) => Range;
  bounds: (bench: Bench) => { min: number; max: number };
  why: string;
};

/** Usual length of a face, mm, and the share of it that should run at the speed asked for. */
const SIDE = 36;
const REACH = 0.7;
/** Faster than this, mm/s, faces are longer than beds. */
const FASTEST = 100;

/** Where an acceleration ladder begins at most, mm/s², and how much harder each rung is than the one before. */
const GENTLEST = 400;
const RATIO = 1.43;

/** Six rungs from half of what is in force to three times it, in steps that the machine takes. */
function around(now: number, resolution: number): Range {
  const step = Math.max(resolution, snap(now / 2, resolution));
  return { from: step, to: 6 * step, step };
}

export const slowestAxis = ({ machine: { limits } }: Bench): number =>
  Math.min(limits.acceleration.x, limits.acceleration.y);

const FACETS: Facet[] = [
  {
    id: 'acceleration',
    title: 'Acceleration',
    setting: 'acceleration',
    ends: [50, 100_000],
    range: (bench) => {
      const top = snap(slowestAxis(bench) - 25, 50);
      const from = Math.min(GENTLEST, Math.max(100, snap(top / 6, 50)));
      const steps = clamp(Math.round(Math.log(top / from) / Math.log(RATIO)), 5, 7);
      const ratio = (top / from) ** (1 / steps);
      const { resolution } = settingInfo('acceleration');
      const asked = { from, to: top, step: from * (ratio - 1), growing: 1 };
      // As it is laid: the first step is the one that is said.
      const [first, second] = climb(asked, resolution);
      return { from, to: top, step: second! - first!, growing: 1 };
    },
    bounds: (bench) => ({ min: 100, max: slowestAxis(bench) }),
    why: 'The highest acceleration that does not ring.',
  },
  {
    id: 'cornering-jerk',
    title: 'Cornering by jerk',
    setting: 'jerk',
    model: 'jerk',
    ends: [0.5, 200],
    range: (bench) => around(inForce(bench).jerk || 8, 0.5),
    bounds: () => ({ min: 1, max: 40 }),
    why: 'The fastest corner that does not ring.',
  },
  {
    id: 'cornering-deviation',
    title: 'Cornering by junction deviation',
    setting: 'deviation',
    model: 'junction-deviation',
    ends: [0.001, 2],
    range: (bench) => around(inForce(bench).deviation || 0.03, 0.001),
    bounds: () => ({ min: 0.002, max: 0.3 }),
    why: 'The fastest corner that does not ring.',
  },
  {
    id: 'cornering-square',
    title: 'Cornering by square-corner speed',
    setting: 'square',
    model: 'square-corner',
    ends: [0.5, 200],
    range: (bench) => around(inForce(bench).square || 5, 0.5),
    bounds: () => ({ min: 1, max: 40 }),
    why: 'The fastest corner that does not ring.',
  },
];

const STEPS = ['all alike', 'larger from rung to rung, rounded'];

/** Corners are taken this slow, where a machine can be told: a jump of speed rings as acceleration does. */
const SLOW_CORNER: [Setting, number][] = [
  ['jerk', 2],
  ['deviation', 0.002],
  ['square', 2],
];

const fieldsFor = ({ setting, ends }: Facet) => ({
  ...rangeFields(setting, ends, settingInfo(setting).resolution),
  ...(setting === 'acceleration' ? { growing: choice('Steps', STEPS) } : {}),
  axes: choice('Faces', AXES),
  side: { label: 'Length of a face', unit: 'mm', min: 20, max: 200, step: 5 },
  ...TOWER_FIELDS,
});

function unfit({ model, setting }: Facet, bench: Bench): Problem | null {
  const none = needsCommand(setting, bench);
  if (none) return none;
  const { cornering } = bench.machine.limits;
  if (!model || cornering.model === model) return null;
  return problem(
    'machine',
    `${bench.machine.name} limits corners by ${cornering.model}, not by ${model}.`,
    'Use the cornering ladder for that model, or correct the machine.',
  );
}

function kindFor(facet: Facet): LadderKind<SpecOf<ReturnType<typeof fieldsFor>>> {
  const { setting } = facet;
  const fields = fieldsFor(facet);
  const { unit } = settingInfo(setting);
  return towerKind<SpecOf<typeof fields>>({
    id: facet.id,
    title: facet.title,
    ...climbs(setting, facet.bounds),
    spec: schemaOf(fields),
    fields,
    sentence: climbSentence(
      setting,
      'on {axes}, faces of {side} mm at {speed} mm/s',
      setting === 'acceleration' ? ', {growing}' : '',
    ),
    reason: (bench) =>
      `${facet.why} ${standsAt(setting, bench)} An input shaper that is on stays on, and the value holds with it.`,
    unfit: (bench) => unfit(facet, bench),
    // Echoes of the corner itself stand on top of those of the acceleration out of it.
    // What a shaper leaves of them is what is seen.
    standsOn: [
      'advance',
      ...(setting === 'acceleration' ? [] : (['acceleration'] as const)),
      ...SHAPER_FREQUENCIES,
    ],
    defaults(bench) {
      const range = facet.range(bench);
      const gentlest = setting === 'acceleration' ? range.from : inForce(bench).acceleration;
      const reached = Math.sqrt(gentlest * SIDE * (1 - REACH));
      const walls = usualWalls(bench, Infinity);
      const melted = surelyMelted(
        beadArea(beadWidthOf(bench.nozzle.diameter), walls.layerHeight),
        bench,
      );
      const fastest = Math.min(2 * bench.machine.speeds.print, FASTEST, melted, reached);
      return {
        ...walls,
        ...range,
        axes: 0,
        side: SIDE,
        speed: Math.max(5, Math.floor(fastest / 5) * 5),
        walls: 2,
        brim: 4,
      };
    },
    check(spec, bench) {
      const bounds = facet.bounds(bench);
      return [
        ...wholeSteps(spec, unit),
        ...inBounds(
          setting,
          spec,
          bounds,
          `${bench.machine.name} takes ${short(bounds.min)} to ${short(bounds.max)} ${unit}`,
        ),
        ...(setting === 'acceleration' && cutByAdvance(spec, bench) ? [advanceOff(bench)] : []),
      ];
    },
    tower(spec, bench) {
      const labels = labelsOf(setting, spec);
      const form = formOf(spec, bench.nozzle.diameter, labels);
      return {
        spec,
        ...formed(form, footprint, () => layersOf(form, spec.walls, labels)),
        ...(setting === 'acceleration' ? { held: calm(spec, bench) } : {}),
        // A slowed layer would ring less for that reason alone.
        shortestLayer: 0,
      };
    },
    criteria: [
      { name: 'ringing', weight: 1, where: 'rear face for x, right face for y, after the corner' },
      { name: 'corners', weight: 0.3, where: 'the upright edges' },
    ],
    rule: { kind: 'clean', end: 'most' },
    measures: (['x', 'y'] as const).flatMap((axis) => [
      {
        key: `over${axis}`,
        label: `Echoes in ${axis}: distance`,
        unit: 'mm',
        min: 0.5,
        max: 100,
        fewest: 0,
        most: 1,
        how: `If echoes show on the ${axis} face: measure over several of them, along the face.`,
      },
      {
        key: `count${axis}`,
        label: `Echoes in ${axis}: gaps in that distance`,
        unit: '',
        min: 1,
        max: 20,
        fewest: 0,
        most: 1,
        how: 'Count the gaps, not the echoes.',
      },
    ]),
    work: (measured, plan) => ok({ values: [], reason: '', also: frequencies(measured, plan) }),
    carry: carryByCommand,
    otherCause:
      'Echoes that look the same on every rung come from something loose: tighten belts and pulleys, then print again. ' +
      'If nothing rings anywhere, climb higher.',
  });
}

/** What rings or brakes beside the acceleration, taken out of the test. */
export const calm = (spec: Shape, bench: Bench): Values => ({
  ...atMost(SLOW_CORNER, bench),
  ...(cutByAdvance(spec, bench) ? { advance: 0 } : {}),
});

type Shape = { from: number; to: number; layerHeight: number };

/** Whether this firmware would hold rungs to less than their acceleration because of the pressure advance found. */
function cutByAdvance({ from, to, layerHeight }: Shape, bench: Bench): boolean {
  const { machine, tuned } = bench;
  const perMm = filamentPerMm(bench, layerHeight);
  const left = advanceCap(advanceJerk(machine), tuned?.advance ?? machine.advance ?? 0, perMm);
  return left < Math.max(from, to);
}

const advanceOff = ({ machine }: Bench): Warning =>
  warn(
    'note',
    'advance-off',
    'to',
    `Pressure advance is off while the rungs print: with it, the extruder’s jerk of ${short(advanceJerk(machine))} mm/s would hold the harder rungs to one acceleration. Corners bulge for that, on all rungs alike.`,
    'Nothing needs doing; it is set again at the end.',
  );

/** Echoes after a corner at face speed v repeat every D: f = v · n / D over n gaps (domain.md §4). */
export function ringingFrequency(speed: number, gaps: number, distance: number): number {
  return (speed * gaps) / distance;
}

function frequencies(measured: Measured, { spec }: Plan): string[] {
  return ['x', 'y'].flatMap((axis) => {
    const [distance] = measured[`over${axis}`] ?? [];
    const [gaps] = measured[`count${axis}`] ?? [];
    if (!distance || !gaps) return [];
    const hertz = ringingFrequency(Number(spec.speed), gaps, distance);
    return [`The ${axis} axis rings at about ${short(hertz, 1)} Hz.`];
  });
}

export const drive = FACETS.map(kindFor);
