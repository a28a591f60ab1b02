/** Melt flow: how much plastic a second comes out whole at this temperature. Only speed climbs, at a fixed line. */

import type { Bench } from '../../bench/bench';
import { inForce } from '../../bench/in-force';
import { MATERIALS } from '../../bench/materials';
import { beadArea } from '../../deposit/bead';
import { beadWidthOf } from '../../deposit/conditions';
import { mean, short, snap, tidy } from '../../numbers';
import type { Plan } from '../../plan/plan';
import { ok, type Result } from '../../result';
import { climb, fewer, type Range } from '../climb';
import { labelsOf, rearward } from '../climbing';
import { inBounds } from '../commands';
import { LAID_FIELDS, PLACED, rangeFields, schemaOf } from '../fields';
import { fitting } from '../fitting';
import { warn, wholeSteps } from '../guards';
import { climbs } from '../one-setting';
import { lyingKind } from '../tower-kind';
import type { Measured, Told, Warning, Worked } from '../types';
import { boxOfRow, footprint, formOf, layersOf, middleOf, plasticOf } from './form';

/** Ends of what can be typed, mm³/s. */
const ENDS: [number, number] = [0.5, 80];
/** The usual range, in shares of what any hot end melts through a 0.4 mm nozzle. */
const [FROM, TO, STEP] = [0.625, 2.5, 0.125];
const USUAL_BORE = 0.4;
/** Layers are thick, so that speeds stay low: of the bore. */
const THICK = 0.7;
/** Height of a ring, mm, and its usual length. */
const [TALL, LONG] = [4, 120];
/** Share of a ring in its middle that must run at the speed asked for. */
const REACHED = 0.5;

const fields = {
  ...rangeFields('meltFlow', ENDS, 0.5, ['Front', 'Rear']),
  long: { label: 'Length of a wall', unit: 'mm', min: 30, max: 300, step: 10 },
  rungHeight: { label: 'Height of a wall', unit: 'mm', min: 2, max: 20, step: 1, folded: true },
  ...LAID_FIELDS,
} as const;
type Spec = { [K in keyof typeof fields]: number };

const sectionOf = (layer: number, bore: number): number =>
  beadArea(Math.max(beadWidthOf(bore), layer), layer);

/** Speed, mm/s, at which a line carries a melt flow: what flow is in force comes on top of its section. */
const speedFor = (
  value: number,
  { layerHeight }: Pick<Spec, 'layerHeight'>,
  bench: Bench,
): number => value / (sectionOf(layerHeight, bench.nozzle.diameter) * inForce(bench).flow);

/** Speed, mm/s, that the middle of a wall reaches on this machine. */
function reachable(long: number, bench: Bench): number {
  const { limits } = bench.machine;
  const { acceleration } = inForce(bench);
  const gentle = Math.min(acceleration, limits.printAcceleration);
  return Math.min(limits.speed.x, limits.speed.y, Math.sqrt(gentle * long * (1 - REACHED)));
}

/** Width of the bed where it is widest, mm; on a round one what is left for rows. */
const widthOf = ({ machine: { bed } }: Bench): number =>
  bed.shape === 'round' ? 0.8 * bed.diameter : bed.width;

function usualRange(bench: Bench, spec: Pick<Spec, 'layerHeight' | 'long'>): Range {
  const unit = MATERIALS[bench.filament.material].melts * (bench.nozzle.diameter / USUAL_BORE);
  const step = Math.max(0.1, snap(STEP * unit, unit < 4 ? 0.1 : 0.5));
  const from = Math.max(step, snap(FROM * unit, step));
  const room = reachable(spec.long, bench) / speedFor(1, spec, bench);
  const most = Math.min(TO * unit, room);
  return { from, to: tidy(from + Math.max(4, Math.floor((most - from) / step)) * step), step };
}

const kind = lyingKind<Spec>(
  {
    id: 'melt-flow',
    title: 'Melt flow',
    ...climbs('meltFlow', () => ({ min: ENDS[0], max: ENDS[1] })),
    axes: (spec) => rearward('meltFlow', spec),
    spec: schemaOf(fields),
    fields,
    sentence:
      'Climb from {from} mm³/s in front to {to} mm³/s at the rear in steps of {step}: for each a wall {long} mm long, laid ' +
      'as fast as that takes.',
    reason: (bench) =>
      `Slowest first. From some speed on less comes out than is fed: walls get thin, dull and rough. It stands at ` +
      `${short(inForce(bench).nozzle)} °C, and moves with the heat.`,
    standsOn: ['nozzle'],
    defaults(bench) {
      const layerHeight = tidy(Math.round(bench.nozzle.diameter * THICK * 20) / 20);
      const long = Math.min(LONG, Math.floor((widthOf(bench) - 60) / 10) * 10);
      const rungHeight = tidy(layerHeight * Math.round(TALL / layerHeight));
      const spec = { layerHeight, long, rungHeight, brim: 0, ...PLACED };
      return { ...spec, ...usualRange(bench, spec) };
    },
    check: (spec, bench) => [
      ...wholeSteps(spec, 'mm³/s'),
      ...inBounds('meltFlow', spec, { min: ENDS[0], max: ENDS[1] }, 'no hot end melts that'),
      ...fastEnough(spec, bench),
    ],
    tower(spec, bench) {
      const labels = labelsOf('meltFlow', spec);
      const values = climb(spec);
      const form = formOf(spec, bench.nozzle.diameter, labels);
      const slow = speedFor(
        Math.min(values[0]!, MATERIALS[bench.filament.material].melts / 2),
        spec,
        bench,
      );
      return {
        spec: { ...spec, speed: slow },
        sizes: form.sizes,
        layers: () => layersOf(form, labels),
        footprint: footprint(form, labels.length),
        digits: null,
        view: 'top',
        // What is slowed to cool would be no test.
        shortestLayer: 0,
        rung: ([row]) => ({ boxes: [boxOfRow(form, row!)], looked: middleOf(form, row!) }),
        conditions: (plain, rung) =>
          rung === null
            ? plain
            : { ...plain, speeds: { ...plain.speeds, wall: speedFor(values[rung]!, spec, bench) } },
      };
    },
    criteria: [
      {
        name: 'gaps',
        weight: 1,
        where: 'between the layers in the middle of the rear wall, held against light',
      },
      { name: 'surface', weight: 0.2, where: 'the middle of the rear wall' },
      { name: 'gloss', weight: 0.1, where: 'the middle of the rear wall' },
    ],
    // Gaps decide. Surface suffers later and gloss earlier: on a short ladder either may hardly change, and then counts not.
    rule: { kind: 'clean', end: 'most', sure: 0.5 },
    table: speedTable,
    measures: [
      {
        key: 'weighed',
        label: 'Weight of all walls',
        unit: 'g',
        min: 0.1,
        max: 500,
        fewest: 1,
        most: 3,
        how: 'Weigh all walls together, with their feet, without numbers, skirt and prime line. It checks that what was fed came out.',
      },
    ],
    work: weighed,
    carry: (_, value, bench) => ({
      lines: [],
      say:
        `Enter ${short(value)} mm³/s as the largest melt flow of ${bench.filament.name} at ` +
        `${short(inForce(bench).nozzle)} °C in your slicer. Ladders of this bench keep under it from now on.`,
    }),
    otherCause:
      'If every wall is closed, the hot end melts more than was asked: print faster ones. If all are thin, the flow is too ' +
      'low or the nozzle partly blocked.',
  },
  { drafted: true },
);

/** A small bed gets fewer walls, the fewer the wider its nozzle. */
export const meltFlow = fitting(kind, (usual) => {
  const half = { ...usual, ...fewer(usual) };
  const { from, to, step } = half;
  return [half, { ...half, to: tidy(from + Math.floor((0.7 * (to - from)) / step) * step) }];
});

/** Speeds that the machine reaches in the middle of a wall. */
function fastEnough(spec: Spec, bench: Bench): Warning[] {
  const most = reachable(spec.long, bench);
  const asked = speedFor(Math.max(spec.from, spec.to), spec, bench);
  if (asked <= most + 0.5) return [];
  const melt = Math.floor((most / asked) * Math.max(spec.from, spec.to) * 10) / 10;
  return [
    warn(
      'warning',
      'not-reached',
      spec.to > spec.from ? 'to' : 'from',
      `${short(Math.max(spec.from, spec.to))} mm³/s take ${Math.round(asked)} mm/s; the middle of a wall reaches ${Math.round(most)}.`,
      `Stay under ${short(melt)} mm³/s, or take longer walls or thicker layers.`,
    ),
  ];
}

/** Less than this share of what was fed says that some of it did not come out. */
const ALL_OF_IT = 0.97;

/** What a scale says: single walls are too light for it, all together are not. It gives no value, and checks. */
function weighed({ weighed: grams = [] }: Measured, plan: Plan): Result<Worked> {
  const { bench, rungs } = plan;
  const spec = plan.spec as Spec;
  const form = formOf(spec, bench.nozzle.diameter, labelsOf('meltFlow', spec));
  const section = sectionOf(spec.layerHeight, bench.nozzle.diameter) * inForce(bench).flow;
  const asked = (plasticOf(form, rungs.length, section) * bench.filament.density) / 1000;
  const share = mean(grams) / asked;
  const said = `${short(mean(grams), 1)} g were weighed of ${short(asked, 1)} g that were fed, ${Math.round(share * 100)} %.`;
  const means =
    share >= ALL_OF_IT
      ? 'All of it came out: the fast walls are no worse than they look.'
      : 'Some of it did not come out: the fast walls are thin, or the extruder feeds too little at any speed.';
  return ok({ values: [], reason: '', also: [`${said} ${means}`] });
}

/** Layer heights and line widths of a bore that people print with. */
const [HEIGHTS, WIDTHS] = [
  [0.25, 0.5, 0.75],
  [1, 1.125, 1.25, 1.5],
];

/** The largest speed for usual layers and lines. */
function speedTable(value: number, { nozzle: { diameter } }: Bench): Told {
  const widths = WIDTHS.map((share) => tidy(Math.round(share * diameter * 100) / 100));
  const heights = HEIGHTS.map((share) => tidy(Math.round(share * diameter * 100) / 100));
  return {
    title: `Largest speed, mm/s, at ${short(value)} mm³/s`,
    heads: ['layer', ...widths.map((width) => `${short(width)} mm wide`)],
    rows: heights.map((height) => [
      `${short(height)} mm`,
      ...widths.map((width) => String(Math.floor(value / beadArea(width, height)))),
    ]),
  };
}
