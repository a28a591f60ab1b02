/**
 * The form of acceleration and cornering ladders: a hollow ring whose faces along x and along y are long enough to
 * reach the speed under test. Every face starts at a sharp corner, which makes the axis ring. Values stand on the
 * front face, so the rear face is looked at for x and the right face for y. Nothing stands out of these two, since
 * every bump would ring as well: grooves in their foot tell them apart, one for x, two for y.
 */

import type { Box } from '../../bench/bed';
import type { Layer } from '../../deposit/layer';
import { rect, subtract, type Region } from '../../shape/region';
import { bodyAt, bodyFor, type Body } from '../body';
import { sizesOf, stack, type Sizes } from '../tower';

/** Height of the foot with the grooves, mm. */
const FOOT = 2;
/** A groove, mm: wide enough to be felt, and far enough from the next one to be counted. */
const GROOVE = { wide: 2, deep: 0.8, apart: 5 };
/** A face that is not tested, mm. */
const SHORT_FACE = 15;

export const AXES = ['x and y', 'x alone', 'y alone'];

export type Form = { sizes: Sizes; body: Body };
type Shape = { layerHeight: number; rungHeight: number; side: number; axes: number };

export function formOf(spec: Shape, bore: number, labels: readonly string[]): Form {
  const sizes = sizesOf(spec, bore, FOOT);
  const [wide, deep] = [
    spec.axes === 2 ? SHORT_FACE : spec.side,
    spec.axes === 1 ? SHORT_FACE : spec.side,
  ];
  return { sizes, body: bodyFor(sizes, labels, deep, wide) };
}

export const footprint = ({ body: { width, depth, digits } }: Form): Box => ({
  minX: 0,
  minY: -digits.relief,
  maxX: width,
  maxY: depth,
});

export function layersOf({ sizes, body }: Form, walls: number, labels: readonly string[]): Layer[] {
  const foot = { outline: footOf(body), solid: [], walls };
  return stack(
    sizes,
    labels.length,
    () => foot,
    (rung, within) => ({ outline: bodyAt(body, sizes, labels[rung]!, within), solid: [], walls }),
  );
}

/** The foot with one groove in the rear face and two in the right one. */
export function footOf({ width, depth }: Body): Region {
  const { wide, deep, apart } = GROOVE;
  const rear = rect((width - wide) / 2, depth - deep, (width + wide) / 2, depth + deep);
  const right = [-apart / 2, apart / 2].map((off) => {
    const y = depth / 2 + off;
    return rect(width - deep, y - wide / 2, width + deep, y + wide / 2);
  });
  return [rear, ...right].reduce(
    (left, groove) => subtract(left, groove),
    rect(0, 0, width, depth),
  );
}
