/**
 * The form of acceleration and cornering ladders: a hollow ring whose faces along x and along y are long enough to
 * reach the speed under test. Every face starts at a sharp corner, which makes the axis ring. Values stand on the
 * front face, so the rear face is looked at for x and the right face for y; both carry their letter at the bottom.
 */

import type { Box } from '../../bench/bed';
import type { Layer } from '../../deposit/layer';
import { rect, union, type Region } from '../../shape/region';
import { reliefAt, reliefFor } from '../../shape/relief';
import { bodyAt, bodyFor, type Body } from '../body';
import { sizesOf, stack, type Sizes } from '../tower';

/** Height of the plain foot with the letters, mm. */
const FOOT = 8;
/** A face that is not tested, mm. */
const SHORT_FACE = 15;

export const AXES = ['x and y', 'x alone', 'y alone'];

export type Form = { sizes: Sizes; body: Body; footHeight: number };
type Shape = { layerHeight: number; rungHeight: number; side: number; axes: number };

export function formOf(spec: Shape, bore: number, labels: readonly string[]): Form {
  const footHeight = Math.max(FOOT, 14 * spec.layerHeight);
  const sizes = sizesOf(spec, bore, footHeight);
  const [wide, deep] = [
    spec.axes === 2 ? SHORT_FACE : spec.side,
    spec.axes === 1 ? SHORT_FACE : spec.side,
  ];
  return { sizes, body: bodyFor(sizes, labels, deep, wide), footHeight };
}

export const footprint = ({ body }: Form): Box => {
  const out = body.digits.relief;
  return { minX: 0, minY: -out, maxX: body.width + out, maxY: body.depth + out };
};

export function layersOf(form: Form, walls: number, labels: readonly string[]): Layer[] {
  const { sizes, body, footHeight } = form;
  return stack(
    sizes,
    labels.length,
    (index) => ({ outline: foot(body, sizes, index, footHeight), solid: [], walls }),
    (rung, within) => ({ outline: bodyAt(body, sizes, labels[rung]!, within), solid: [], walls }),
  );
}

/** The foot with X on the rear face and Y on the right one, each to be read from its own side. */
function foot({ width, depth }: Body, sizes: Sizes, index: number, height: number): Region {
  const z = (index + 0.5) * sizes.layer;
  const signs = reliefFor(sizes.bead, sizes.layer, height);
  const letter = (text: string, middle: number) =>
    reliefAt(text, z, sizes.layer, middle, signs).flat();
  const rear = letter('X', width / 2).map((ring) =>
    ring.map(({ x, y }) => ({ x: width - x, y: depth - y })),
  );
  const right = letter('Y', depth / 2).map((ring) =>
    ring.map(({ x, y }) => ({ x: width - y, y: x })),
  );
  const face = rect(0, 0, width, depth);
  return rear.length + right.length > 0 ? union(face, rear, right) : face;
}
