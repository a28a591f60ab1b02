/**
 * The form of a retraction ladder, seen from above: a row of three posts for every value, row behind row.
 *
 *     1.4   ▫─ ─ ─ ─▫─ ─ ─ ─▫      In every layer the head crosses both gaps of every row, drawing back before
 *     1.2   ▫─ ─ ─ ─▫─ ─ ─ ─▫      each, and all rows stand side by side: each post has cooled while the others
 *     1.0   ▫─ ─ ─ ─▫─ ─ ─ ─▫      were laid, so walls are printed as fast as prints are. Pressure is what strings.
 */

import type { Box } from '../../bench/bed';
import type { Layer, Part } from '../../deposit/layer';
import { textWidth } from '../../shape/digits';
import { rect, type Region } from '../../shape/region';
import { signAt, signTall, type SignSize } from '../../shape/sign';
import { sizesOf, stackParts, type Sizes } from '../tower';

/** Posts of a row. */
const POSTS = 3;
/** Feet reach this far around their posts on the first layer, mm, to hold them. */
const FOOT = 1;
/** Free way between two rows, and between posts and what they are called, mm. */
const [BETWEEN, BESIDE] = [3.5, 3];
const BASE_HEIGHT = 0.6;

export type Form = {
  sizes: Sizes;
  /** Width and depth of a post: wide enough for its walls to reach the speed of prints. */
  post: { wide: number; deep: number };
  gap: number;
  /** From row to row, mm. */
  stride: number;
  /** Size of the labels, and where they begin in x, mm. */
  sign: SignSize;
  left: number;
};

export function formOf(
  spec: { layerHeight: number; rungHeight: number; gap: number },
  bore: number,
  labels: readonly string[],
): Form {
  const sizes = sizesOf(spec, bore, BASE_HEIGHT);
  const post = { wide: Math.max(10.5, 13 * sizes.bead), deep: Math.max(4.5, 6 * sizes.bead) };
  // Strokes of a label are two beads wide.
  const sign = { unit: 3 * sizes.bead, stroke: 2 * sizes.bead };
  const wide = Math.max(...labels.map(textWidth)) * sign.unit + sign.stroke;
  return {
    sizes,
    post,
    gap: spec.gap,
    stride: Math.max(post.deep + 2 * FOOT, signTall(sign)) + BETWEEN,
    sign,
    left: -(BESIDE + wide),
  };
}

/** Where a row begins in y, mm: the front of its posts. */
const frontOf = ({ stride }: Form, row: number): number => row * stride;
const endOf = ({ post, gap }: Form): number => POSTS * post.wide + (POSTS - 1) * gap;

export const footprint = (form: Form, rows: number): Box => ({
  minX: form.left,
  minY: -form.stride / 2,
  maxX: endOf(form) + FOOT,
  maxY: frontOf(form, rows - 1) + form.post.deep + form.stride / 2,
});

/** All of a row: where it is looked at. */
export const boxOfRow = (form: Form, row: number): Box => ({
  minX: -FOOT,
  maxX: endOf(form) + FOOT,
  minY: frontOf(form, row) - FOOT,
  maxY: frontOf(form, row) + form.post.deep + FOOT,
});

function postsOf(form: Form, row: number, around = 0): Region {
  const { post, gap } = form;
  const y = frontOf(form, row);
  return Array.from({ length: POSTS }, (_, i) => {
    const x = i * (post.wide + gap);
    return rect(x - around, y - around, x + post.wide + around, y + post.deep + around);
  }).flat();
}

/** What a row is called, beside it on the bed. */
const labelOf = ({ sign, left, post, stride }: Form, row: number, text: string): Region =>
  signAt(text, left, row * stride + post.deep / 2 - signTall(sign) / 2, sign);

export function layersOf(form: Form, walls: number, labels: readonly string[]): Layer[] {
  const rows = labels.map((_, row) => row);
  const feet = rows.flatMap((row) => postsOf(form, row, FOOT));
  const named = labels.flatMap((text, row) => labelOf(form, row, text));
  const standing = rows.flatMap((row) => postsOf(form, row));
  return stackParts(
    form.sizes,
    1,
    (index) =>
      index === 0
        ? { outline: [...feet, ...named], solid: feet, walls: 1 }
        : { outline: [...standing, ...(index === 1 ? named : [])], solid: [], walls },
    () => rows.map((rung): Part => ({ rung, outline: postsOf(form, rung), solid: [], walls })),
  );
}
