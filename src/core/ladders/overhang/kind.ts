/** Overhang: the steepest lean that still prints flat, seen from below. */

import { short } from '../../numbers';
import { beadWidthOf, layerHeightOf } from '../../deposit/conditions';
import { LEANS } from '../../deposit/walls';
import { climb } from '../climb';
import { labelsOf, rearward } from '../climbing';
import { inBounds } from '../commands';
import { rangeFields, schemaOf, TOWER_FIELDS } from '../fields';
import { wholeSteps } from '../guards';
import { climbs, usualWalls } from '../one-setting';
import { lyingKind } from '../tower-kind';
import { boxOfLean, boxOfRow, footprint, formOf, layersOf } from './form';

/** Ends of what can be typed, and the least that leans at all, degrees. */
const ENDS: [number, number] = [10, 85];

/** Flatter than this, whole degrees, a layer has nothing to lean on and hangs from its ends: it bridges. */
const flattest = (bore: number, layer: number): number =>
  Math.floor((Math.atan((LEANS * Math.max(beadWidthOf(bore), layer)) / layer) * 180) / Math.PI);

export const bounds = (bore: number, layer = layerHeightOf(bore)) => ({
  min: ENDS[0],
  max: Math.min(ENDS[1], flattest(bore, layer)),
});
/** Speed of walls, mm/s, and height of a lean, mm: long enough to judge. */
const USUAL_SPEED = 40;
const LEAN = 4;

const fields = {
  ...rangeFields('overhang', ENDS, 1, ['Front', 'Rear']),
  ...TOWER_FIELDS,
  rungHeight: { ...TOWER_FIELDS.rungHeight, label: 'Height of a lean' },
};

export const overhang = lyingKind<{ [K in keyof typeof fields]: number }>({
  id: 'overhang',
  title: 'Overhang',
  ...climbs('overhang', ({ nozzle }) => bounds(nozzle.diameter)),
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
  check(spec, { nozzle }) {
    return [
      ...wholeSteps(spec, '°'),
      ...inBounds(
        'overhang',
        spec,
        bounds(nozzle.diameter, spec.layerHeight),
        'flatter than this ladder can lean it is a bridge, steeper a wall',
      ),
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
