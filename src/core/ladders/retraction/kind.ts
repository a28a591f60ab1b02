/** Retraction: five settings, one ladder each; what is not climbed is held at what the bench has. */

import type { Bench } from '../../bench/bench';
import { inForce } from '../../bench/in-force';
import { settingInfo, type Setting } from '../../bench/settings';
import { type Range } from '../climb';
import { labelsOf, rearward } from '../climbing';
import { carryBySlicing, inBounds, standsAt } from '../commands';
import { rangeFields, schemaOf, TOWER_FIELDS, type SpecOf } from '../fields';
import { warn, wholeSteps } from '../guards';
import { fitting } from '../fitting';
import { climbs, usualWalls } from '../one-setting';
import { lyingKind } from '../tower-kind';
import type { LadderKind, Warning } from '../types';
import { distanceBounds, speedBounds } from './bounds';
import { boxOfRow, footprint, formOf, layersOf } from './form';

/** Height of a post, mm: twenty layers, and as many threads in each gap. */
const POST_HEIGHT = 4;

type Facet = {
  id: string;
  title: string;
  setting: Setting;
  ends: [number, number];
  range: (bench: Bench) => Range;
  bounds: (bench: Bench) => { min: number; max: number; why: string };
  standsOn: Setting[];
  onDemand?: true;
  why: string;
};

const speedRange = ({ machine }: Bench): Range => ({
  from: 20,
  to: Math.min(70, Math.floor(machine.limits.speed.e / 10) * 10),
  step: 10,
});

const FACETS: Facet[] = [
  {
    id: 'retraction',
    title: 'Retraction distance',
    setting: 'retraction',
    ends: [0, 20],
    range: ({ machine }) =>
      machine.extruder.drive === 'direct'
        ? { from: 0.2, to: 1.4, step: 0.2 }
        : { from: 2, to: 8, step: 1 },
    bounds: distanceBounds,
    standsOn: ['nozzle', 'advance'],
    why: 'Shortest first: the shortest distance without stringing is the best.',
  },
  {
    id: 'retraction-speed',
    title: 'Retraction speed',
    setting: 'retractSpeed',
    ends: [1, 200],
    range: speedRange,
    bounds: (bench) => speedBounds(bench, 5),
    standsOn: ['nozzle', 'retraction', 'advance'],
    onDemand: true,
    why: 'Slow is gentle to the filament; the slowest that is clean wins.',
  },
  {
    id: 'extra-restart',
    title: 'Extra restart',
    setting: 'restartExtra',
    ends: [-1, 2],
    range: ({ machine }) =>
      machine.extruder.drive === 'direct'
        ? { from: 0, to: 0.1, step: 0.02 }
        : { from: 0, to: 0.4, step: 0.1 },
    bounds: () => ({ min: -0.5, max: 1, why: 'more would leave a blob at every start' }),
    standsOn: ['nozzle', 'retraction', 'advance'],
    onDemand: true,
    why: 'Only when lines start thin: the least that closes the start wins.',
  },
  {
    id: 'restart-speed',
    title: 'Restart speed',
    setting: 'restartSpeed',
    ends: [1, 200],
    range: speedRange,
    bounds: (bench) => speedBounds(bench, 5),
    standsOn: ['nozzle', 'retraction', 'advance'],
    onDemand: true,
    why: 'Only when starts are uneven: the slowest that is clean wins.',
  },
  {
    id: 'lift',
    title: 'Lift',
    setting: 'lift',
    ends: [0, 5],
    range: () => ({ from: 0, to: 1, step: 0.2 }),
    bounds: () => ({ min: 0, max: 2, why: 'a higher lift only draws longer threads' }),
    standsOn: ['retraction'],
    onDemand: true,
    why: 'Only when the nozzle scrapes or knocks: the least that is clean wins.',
  },
];

function kindFor(facet: Facet): LadderKind<SpecOf<ReturnType<typeof fieldsFor>>> {
  const { setting } = facet;
  const fields = fieldsFor(facet);
  const kind = lyingKind<SpecOf<typeof fields>>({
    id: facet.id,
    title: facet.title,
    ...climbs(setting, facet.bounds),
    axes: (spec) => rearward(setting, spec),
    spec: schemaOf(fields),
    fields,
    sentence:
      `Climb from {from} ${settingInfo(setting).unit} in front to {to} ${settingInfo(setting).unit} at the rear in steps ` +
      'of {step}: for each a row of three posts {rungHeight} mm tall, {gap} mm apart.',
    reason: (bench) => `${facet.why} ${standsAt(setting, bench)}`,
    standsOn: facet.standsOn,
    ...(facet.onDemand ? { onDemand: true as const } : {}),
    defaults: (bench) => ({
      // Rows cool while others are laid: nothing has to be slowed, and it is pressure that strings.
      ...usualWalls(bench, bench.machine.speeds.print),
      ...facet.range(bench),
      rungHeight: POST_HEIGHT,
      gap: 20,
      walls: 1,
    }),
    check(spec, bench) {
      const { why, ...bounds } = facet.bounds(bench);
      return [
        ...wholeSteps(spec, settingInfo(setting).unit),
        ...inBounds(setting, spec, bounds, why),
        ...nothingDrawn(setting, bench),
      ];
    },
    tower(spec, bench) {
      const labels = labelsOf(setting, spec);
      const form = formOf(spec, bench.nozzle.diameter, labels);
      return {
        spec,
        sizes: form.sizes,
        layers: () => layersOf(form, spec.walls, labels),
        footprint: footprint(form, labels.length),
        digits: null,
        view: 'top',
        rung: ([row]) => ({ boxes: [boxOfRow(form, row!)] }),
      };
    },
    criteria: [
      { name: 'stringing', weight: 1, where: 'in the two gaps' },
      { name: 'surface', weight: 0.5, where: 'faces of the posts' },
      { name: 'seam', weight: 0.4, where: 'the edge where each layer of a post starts' },
    ],
    // A little too much costs nothing that is seen; a little too little draws threads.
    rule: { kind: 'clean', end: 'least', sure: 0.8 },
    carry: carryBySlicing,
    otherCause:
      'Stringing in every row usually comes from wet filament or a nozzle that is too hot: ' +
      'dry the spool, then print a temperature ladder.',
  });
  // A wide nozzle on a small bed gets narrower gaps, then fewer rows.
  return fitting(kind, (usual) => {
    const near = { ...usual, gap: usual.gap / 2 };
    return [near, { ...near, step: 2 * usual.step }];
  });
}

function fieldsFor({ setting, ends }: Facet) {
  return {
    ...rangeFields(setting, ends, settingInfo(setting).resolution, ['Front', 'Rear']),
    gap: { label: 'Gap', unit: 'mm', min: 5, max: 80, step: 5 },
    ...TOWER_FIELDS,
  };
}

/** Speeds, restart and lift show nothing while nothing is drawn back. */
function nothingDrawn(setting: Setting, bench: Bench): Warning[] {
  if (setting === 'retraction' || inForce(bench).retraction > 0) return [];
  return [
    warn(
      'stop',
      'no-retraction',
      'step',
      'This bench does not retract, so this setting has nothing to show.',
      'Find its retraction distance first, or enter one on the machine’s page.',
    ),
  ];
}

export const retraction = FACETS.map(kindFor);
