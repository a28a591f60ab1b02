/** Overhang: the steepest lean that still prints flat, seen from below. */

import { short } from '../../numbers';
import { climb } from '../climb';
import { labelsOf, rearward } from '../climbing';
import { inBounds } from '../commands';
import { rangeFields, schemaOf, TOWER_FIELDS } from '../fields';
import { wholeSteps } from '../guards';
import { climbs, usualWalls } from '../one-setting';
import { lyingKind } from '../tower-kind';
import { boxOfLean, boxOfRow, footprint, formOf, layersOf } from './form';

const BOUNDS = { min: 10, max: 85 };
/** Speed of walls, mm/s, and height of a lean, mm: long enough to judge. */
const USUAL_SPEED = 40;
const LEAN = 4;

const fields = {
  ...rangeFields('overhang', [BOUNDS.min, BOUNDS.max], 1, ['Front', 'Rear']),
  ...TOWER_FIELDS,
  rungHeight: { ...TOWER_FIELDS.rungHeight, label: 'Height of a lean' },
};

export const overhang = lyingKind<{ [K in keyof typeof fields]: number }>({
  id: 'overhang',
  title: 'Overhang',
  ...climbs('overhang', () => BOUNDS),
  axes: (spec) => rearward('overhang', spec),
  spec: schemaOf(fields),
  fields,
  sentence:
    'Climb from {from}° in front to {to}° at the rear, from vertical, in steps of {step}°: for each a body that leans, ' +
    '{rungHeight} mm tall, at {speed} mm/s.',
  reason: () =>
    'Gentle overhangs always print; the steepest that stays flat tells where supports have to start.',
  standsOn: ['nozzle', 'flow'],
  defaults: (bench) => ({
    ...usualWalls(bench, USUAL_SPEED),
    from: 40,
    to: 75,
    step: 5,
    rungHeight: LEAN,
    walls: 2,
  }),
  check(spec) {
    return [
      ...wholeSteps(spec, '°'),
      ...inBounds('overhang', spec, BOUNDS, 'flatter than that it is a bridge, steeper a wall'),
    ];
  },
  tower(spec, bench) {
    const labels = labelsOf('overhang', spec);
    const angles = climb(spec);
    const form = formOf(spec, bench.nozzle.diameter, angles, labels);
    return {
      spec: { ...spec, rungHeight: form.sizes.rung },
      sizes: form.sizes,
      layers: () => layersOf(form, spec.walls, angles, labels),
      footprint: footprint(form, labels.length),
      digits: null,
      view: 'top',
      rung: ([row]) => ({ boxes: [boxOfRow(form, row!)], looked: boxOfLean(form, row!) }),
    };
  },
  criteria: [{ name: 'overhang', weight: 1, where: 'the underside of the lean, turned over' }],
  rule: { kind: 'clean', end: 'most' },
  carry: (_, value, { filament }) => ({
    lines: [],
    say: `Supports from ${short(value)}° from vertical (${short(90 - value)}° from the bed) for ${filament.name}: enter it as the support angle in your slicer, counted the way your slicer counts it.`,
  }),
  otherCause:
    'Overhangs that droop on every rung usually need more fan or less heat: print a temperature ladder. ' +
    'If they are clean up to the last, print steeper ones.',
});
