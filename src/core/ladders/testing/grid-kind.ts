/**
 * A kind for tests: temperature up, retraction across, on pairs of posts that string. It shows that a plan may have
 * two axes; it is in no registry, and nobody would print it.
 */

import { axisOf } from '../../plan/axes';
import { rect } from '../../shape/region';
import { climb } from '../climb';
import { PLACED, rangeFields, schemaOf, TOWER_FIELDS } from '../fields';
import { sizesOf, stackParts } from '../tower';
import { towerKind } from '../tower-kind';
import type { LadderKind } from '../types';

const POST = 6;
const GAP = 10;
const BETWEEN = 14;
/** Room of a pair, and from the beginning of one to that of the next, mm. */
const WIDE = 2 * POST + GAP;
const STRIDE = WIDE + BETWEEN;

const up = rangeFields('nozzle', [150, 300], 1);
const across = rangeFields('retraction', [0, 10], 0.1);
const fields = {
  ...up,
  left: across.from,
  right: across.to,
  columnStep: across.step,
  ...TOWER_FIELDS,
};
type Spec = { [K in keyof typeof fields]: number };

const columnsOf = ({ left, right, columnStep }: Spec) =>
  climb({ from: left, to: right, step: columnStep });
const pair = (column: number) => {
  const x = column * STRIDE;
  return [...rect(x, 0, x + POST, POST), ...rect(x + POST + GAP, 0, x + WIDE, POST)];
};

export const gridKind = towerKind<Spec>({
  id: 'grid-of-tests',
  title: 'Temperature and retraction',
  finds: ['nozzle', 'retraction'],
  spec: schemaOf(fields),
  fields,
  sentence: 'From {from} to {to} by {step}, and from {left} to {right} by {columnStep}.',
  reason: () => 'For tests.',
  standsOn: [],
  defaults: () => ({
    from: 220,
    to: 200,
    step: 10,
    left: 1,
    right: 4,
    columnStep: 1,
    rungHeight: 4,
    speed: 30,
    walls: 1,
    layerHeight: 0.2,
    brim: 0,
    ...PLACED,
  }),
  check: () => [],
  axes: (spec) => [axisOf('nozzle', climb(spec), 'z'), axisOf('retraction', columnsOf(spec), 'x')],
  tower(spec, bench) {
    const sizes = sizesOf(spec, bench.nozzle.diameter);
    const columns = columnsOf(spec);
    const end = (columns.length - 1) * STRIDE + WIDE;
    const sole = rect(-2, -2, end + 2, POST + 2);
    return {
      spec,
      sizes,
      layers: () =>
        stackParts(
          sizes,
          climb(spec).length,
          () => ({ outline: sole, solid: sole, walls: 2 }),
          (level) =>
            columns.map((_, column) => ({
              rung: level * columns.length + column,
              outline: pair(column),
              solid: [],
              walls: spec.walls,
            })),
        ),
      footprint: { minX: -2, minY: -2, maxX: end + 2, maxY: POST + 2 },
      digits: null,
      rung: ([, column]) => {
        const x = column! * STRIDE;
        return {
          boxes: [
            { minX: x - BETWEEN / 2, maxX: x + WIDE + BETWEEN / 2, minY: -2, maxY: POST + 2 },
          ],
        };
      },
    };
  },
  bounds: () => ({ nozzle: { min: 170, max: 260 }, retraction: { min: 0, max: 10 } }),
  moved: (spec, { nozzle, retraction }) => ({
    ...spec,
    ...nozzle,
    ...(retraction
      ? { left: retraction.from, right: retraction.to, columnStep: retraction.step }
      : {}),
  }),
  criteria: [{ name: 'stringing', weight: 1, where: 'between the posts' }],
  rule: { kind: 'best', saferSide: 'lower' },
  carry: () => ({ lines: [], say: 'Nothing.' }),
  otherCause: 'Nothing.',
}) as unknown as LadderKind;
