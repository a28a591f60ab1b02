/**
 * The form of a retraction ladder, every rung the same:
 *
 *     ┌──────┐   ┌──┐   ┌──┐     the head crosses two gaps in every layer, drawing back before each
 *     │ 1.2  │   │  │   │  │
 *     ├──────┴───┴──┴───┴──┤     reference: all of it joined, so that nothing is crossed and nothing
 *     └────────────────────┘     drawn back; threads there have another cause
 */

import type { Layer } from '../../deposit/layer';
import type { Box } from '../../bench/bed';
import { rect, union } from '../../shape/region';
import { bodyAt, bodyFor, plate, PLATE_MARGIN, type Body } from '../body';
import { sizesOf, stack, type Sizes } from '../tower';

const PLATE_HEIGHT = 1;
const REFERENCE_HEIGHT = 3;
const DEPTH = 10;

export type Form = { sizes: Sizes; body: Body; post: number; gap: number; end: number };

export function formOf(
  spec: { layerHeight: number; rungHeight: number; gap: number },
  bore: number,
  labels: readonly string[],
): Form {
  const sizes = sizesOf(spec, bore, PLATE_HEIGHT + REFERENCE_HEIGHT);
  const post = Math.max(5, 9 * sizes.bead);
  const body = bodyFor(sizes, labels, Math.max(DEPTH, post));
  return { sizes, body, post, gap: spec.gap, end: body.width + 2 * (spec.gap + post) };
}

export const footprint = ({ body, end }: Form): Box => ({
  minX: -PLATE_MARGIN,
  minY: -Math.max(PLATE_MARGIN, body.digits.relief),
  maxX: end + PLATE_MARGIN,
  maxY: body.depth + PLATE_MARGIN,
});

const postsOf = ({ body, post, gap }: Form) => {
  const y = (body.depth - post) / 2;
  return [0, 1].map((i) => {
    const x = body.width + gap + i * (post + gap);
    return rect(x, y, x + post, y + post);
  });
};

export function layersOf(form: Form, walls: number, labels: readonly string[]): Layer[] {
  const { sizes, body, end } = form;
  const sole = plate(0, 0, end, body.depth);
  const plateLayers = Math.round(PLATE_HEIGHT / sizes.layer);
  const middle = body.depth / 2;
  const bar = rect(0, middle - 2 * sizes.bead, end, middle + 2 * sizes.bead);
  const joined = union(rect(0, 0, body.width, body.depth), bar, ...postsOf(form));
  return stack(
    sizes,
    labels.length,
    (index) =>
      index < plateLayers
        ? { outline: sole, solid: sole, walls: 2 }
        : { outline: joined, solid: [], walls },
    (rung, within) => ({
      outline: [...bodyAt(body, sizes, labels[rung]!, within), ...postsOf(form).flat()],
      solid: [],
      walls,
    }),
  );
}
