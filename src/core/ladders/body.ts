/** The labelled body of a tower: a hollow block with its values raised on the front face. */

import { rect, union, type Region } from '../shape/region';
import { barOf, reliefAt, reliefFor, reliefWidth, type Relief } from '../shape/relief';
import type { Sizes } from './tower';

/** Free face on both sides of the longest label, mm. */
const LABEL_MARGIN = 1.6;

export type Body = { width: number; depth: number; digits: Relief };

/** A body wide enough for the longest of its labels. */
export function bodyFor(sizes: Sizes, labels: readonly string[], depth: number, least = 0): Body {
  const digits = reliefFor(sizes.bead, sizes.layer, sizes.rung);
  const longest = Math.max(...labels.map((label) => reliefWidth(label, digits)));
  return { width: Math.max(least, longest + 2 * LABEL_MARGIN), depth, digits };
}

/** Section of the body in the layer `within` of a rung. */
export function bodyAt(
  { width, depth, digits }: Body,
  sizes: Sizes,
  label: string,
  within: number,
) {
  const z = (within + 0.5) * sizes.layer;
  const raised = reliefAt(label, z, sizes.layer, width / 2, digits);
  const face = rect(0, 0, width, depth);
  return raised.length > 0 ? union(face, ...raised) : face;
}

/** Lowest rung, mm, whose digits can be read at a layer height. */
export const readableRung = (layer: number): number => Math.ceil(barOf(layer) * 4.2 + 2);

/** A plate under a form, a little wider than it. */
export const PLATE_MARGIN = 3;
export const plate = (minX: number, minY: number, maxX: number, maxY: number): Region =>
  rect(minX - PLATE_MARGIN, minY - PLATE_MARGIN, maxX + PLATE_MARGIN, maxY + PLATE_MARGIN);
