/**
 * Overhang: one lean a rung. The right side of each rung leans out by its angle from vertical and ends in the
 * open, so that the underside of every rung is seen from the front and from below.
 */

import type { Box } from '../../bench/bed';
import type { Layer } from '../../deposit/layer';
import { short } from '../../numbers';
import { rect } from '../../shape/region';
import { bodyAt, bodyFor, plate, PLATE_MARGIN, type Body } from '../body';
import { climb } from '../climb';
import { inBounds } from '../commands';
import { rangeFields, schemaOf, TOWER_FIELDS } from '../fields';
import { wholeSteps } from '../guards';
import { sizesOf, stack, type Sizes } from '../tower';
import { climbs, usualWalls, formed } from '../one-setting';
import { towerKind } from '../tower-kind';

const DEPTH = 14;
/** Furthest that a lean reaches out, mm: further, it would break off before it is judged. */
const MOST_REACH = 10;
/** Part of a rung, mm, that stands straight below its lean. */
const STRAIGHT = 1;
/** Clipping rounds to a tenth of a micron, mm. */
const CLIPPED = 1e-3;
const BOUNDS = { min: 10, max: 85 };
/** Speed of walls, mm/s, and lowest rung, mm, on which a lean is long enough to judge. */
const USUAL_SPEED = 40;
const LEAST_RUNG = 7;

const fields = {
  ...rangeFields('overhang', [BOUNDS.min, BOUNDS.max], 1),
  ...TOWER_FIELDS,
};

type Form = { sizes: Sizes; body: Body };
type Shape = { layerHeight: number; rungHeight: number };

function formOf(spec: Shape, bore: number, labels: readonly string[]): Form {
  const sizes = sizesOf(spec, bore);
  return { sizes, body: bodyFor(sizes, labels, DEPTH, 14) };
}

const footprint = ({ body }: Form): Box => ({
  minX: -PLATE_MARGIN,
  minY: -Math.max(PLATE_MARGIN, body.digits.relief),
  maxX: body.width + MOST_REACH,
  maxY: body.depth + PLATE_MARGIN,
});

/** Where the leans are, and nothing else is. */
const leanBox = ({ body, sizes }: Form): Box => ({
  minX: body.width - 2 * sizes.bead,
  maxX: body.width + MOST_REACH,
  minY: 0,
  maxY: body.depth,
});

/** How far the lean stands out in the layer `within` of a rung, mm; whole layers, so that the angle is exact. */
function leanAt({ layer, rungLayers }: Sizes, degrees: number, within: number): number {
  const first = Math.ceil(STRAIGHT / layer);
  const perLayer = layer * Math.tan((degrees * Math.PI) / 180);
  const most = Math.min(rungLayers - 1 - first, Math.floor(MOST_REACH / perLayer));
  const steps = within - first + 1;
  return steps < 1 || steps > most ? 0 : steps * perLayer;
}

function layersOf(form: Form, walls: number, angles: readonly number[]): Layer[] {
  const { sizes, body } = form;
  const sole = plate(0, 0, body.width, body.depth);
  return stack(
    sizes,
    angles.length,
    () => ({ outline: sole, solid: sole, walls: 2 }),
    (rung, within) => {
      const label = short(angles[rung]!);
      const out = leanAt(sizes, angles[rung]!, within);
      const face = bodyAt({ ...body, width: body.width }, sizes, label, within);
      // The far side moves out as a whole: one corner ring, stretched.
      const outline = face.map((ring) =>
        ring.map(({ x, y }) => ({ x: Math.abs(x - body.width) < CLIPPED ? x + out : x, y })),
      );
      return { outline: outline.length > 0 ? outline : rect(0, 0, 1, 1), solid: [], walls };
    },
  );
}

export const overhang = towerKind<{ [K in keyof typeof fields]: number }>({
  id: 'overhang',
  title: 'Overhang',
  ...climbs('overhang', () => BOUNDS),
  spec: schemaOf(fields),
  fields,
  sentence:
    'Climb from {from}° at the bottom to {to}° at the top, from vertical, in steps of {step}°, each rung ' +
    '{rungHeight} mm tall, at {speed} mm/s.',
  reason: () =>
    'Gentle overhangs always print; the steepest that stays flat tells where supports have to start.',
  standsOn: ['nozzle', 'flow'],
  defaults(bench) {
    const walls = usualWalls(bench, USUAL_SPEED);
    const rungHeight = Math.max(LEAST_RUNG, walls.rungHeight);
    return { ...walls, from: 20, to: 75, step: 5, rungHeight, walls: 3 };
  },
  check(spec) {
    return [
      ...wholeSteps(spec, '°'),
      ...inBounds('overhang', spec, BOUNDS, 'flatter than that it is a bridge, steeper a wall'),
    ];
  },
  tower(spec, bench) {
    const angles = climb(spec);
    const form = formOf(
      spec,
      bench.nozzle.diameter,
      angles.map((angle) => short(angle)),
    );
    return {
      spec,
      ...formed(form, footprint, () => layersOf(form, spec.walls, angles)),
      // The digits lean too, at their undersides, but are not what is looked at.
      rung: () => ({ looked: leanBox(form) }),
    };
  },
  criteria: [
    { name: 'overhang', weight: 1, where: 'the underside of the lean at the right', spot: 1 },
  ],
  rule: { kind: 'clean', end: 'most' },
  carry: (_, value, { filament }) => ({
    lines: [],
    say: `Supports from ${short(value)}° from vertical (${short(90 - value)}° from the bed) for ${filament.name}: enter it as the support angle in your slicer, counted the way your slicer counts it.`,
  }),
  otherCause:
    'Overhangs that droop on every rung usually need more fan or less heat: print a temperature ladder. ' +
    'If they are clean up to the last, print steeper ones.',
});
