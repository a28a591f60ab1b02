/**
 * The part of a proof: that of a temperature ladder, as large as what people print, so that walls run at their speed.
 * Corners and flat sides on both bodies, a post between them, a deck that bridges the span and is the top, a prow that
 * leans out. Twice side by side, or one over the other.
 */

import type { Box } from '../../bench/bed';
import type { Layer, Part } from '../../deposit/layer';
import type { Region } from '../../shape/region';
import {
  basePlate,
  DECK_INSET,
  dimensionsOf,
  footprint as footprintOfOne,
  section,
  type Dimensions,
} from '../temperature/form';
import { stackParts } from '../tower';

export type ProofSpec = {
  layerHeight: number;
  rungHeight: number;
  span: number;
  overhangDeg: number;
  walls: number;
  depth: number;
  body: number;
};

/** Free way between two parts, mm. */
const BETWEEN = 10;
export const MARKS = ['A', 'B'] as const;

export type ProofForm = { dims: Dimensions; walls: number; over: boolean };

export const formOf = (spec: ProofSpec, bore: number, over: boolean): ProofForm => ({
  dims: dimensionsOf(spec, bore, {
    depth: spec.depth,
    left: spec.body,
    body: spec.body / 2,
    label: MARKS[1],
  }),
  walls: spec.walls,
  over,
});

/** From one part to the next, mm. */
function stride({ dims, over }: ProofForm): number {
  const { minX, maxX } = footprintOfOne(dims);
  return over ? 0 : maxX - minX + BETWEEN;
}

export function footprint(form: ProofForm): Box {
  const one = footprintOfOne(form.dims);
  return { ...one, maxX: one.maxX + stride(form) };
}

/** Places of a part: all of it, its deck, its prow, and the front of the body that has no mark and no seam. */
export function boxesOf(form: ProofForm, index: number): Box[] {
  const { dims } = form;
  const { left, right, end, depth, prow } = dims;
  const x = index * stride(form);
  const whole = footprintOfOne(dims);
  const placed = (minX: number, maxX: number, minY: number, maxY: number): Box => ({
    minX: minX + x,
    maxX: maxX + x,
    minY,
    maxY,
  });
  return [
    placed(whole.minX, whole.maxX, whole.minY, whole.maxY),
    placed(left, right, DECK_INSET, depth - DECK_INSET),
    placed(end + 0.25 * prow.reach, end + prow.reach + 1, 1, depth - 1),
    placed(right - 1, end + prow.reach + 1, -1, depth / 2),
  ];
}

const moved = (region: Region, x: number): Region =>
  x === 0 ? region : region.map((ring) => ring.map((point) => ({ ...point, x: point.x + x })));

export function layersOf(form: ProofForm): Layer[] {
  const { dims, walls, over } = form;
  const plate = basePlate(dims);
  const bases = over ? plate : [...plate, ...moved(plate, stride(form))];
  const partOf = (index: number, within: number): Part => {
    const { outline, solid } = section(dims, walls, within, MARKS[index]!);
    const x = index * stride(form);
    return { rung: index, outline: moved(outline, x), solid: moved(solid, x), walls };
  };
  return stackParts(
    dims,
    over ? 2 : 1,
    () => ({ outline: bases, walls: 2, solid: bases }),
    (level, within) => {
      if (over) return [partOf(level, within)];
      const both = [partOf(0, within), partOf(1, within)];
      // To the right and back again: what changes between them changes once a layer.
      return within % 2 === 0 ? both : both.reverse();
    },
  );
}
