/**
 * The form of a melt-flow ladder, seen from above: a long narrow ring of wall for every value, row behind row, all laid
 * layer by layer together, so that each has cooled before its next layer however fast it is laid:
 *
 *     18  ▭▭▭▭▭▭▭▭▭▭▭▭▭▭▭▭▭▭▭▭▭▭      every row at a speed of its own, over a sole that is laid slowly
 *     16  ▭▭▭▭▭▭▭▭▭▭▭▭▭▭▭▭▭▭▭▭▭▭
 */

import type { Box } from '../../bench/bed';
import type { Layer, Part } from '../../deposit/layer';
import { textWidth } from '../../shape/digits';
import { rect, subtract, type Region } from '../../shape/region';
import { signAt, signTall, type SignSize } from '../../shape/sign';
import { sizesOf, stackParts, type Sizes } from '../tower';

/** Room that is kept around a ring, mm. */
const FOOT = 1.2;
/** Free way from ring to ring, and from a ring to its number, mm. */
const [BETWEEN, BESIDE] = [3, 2.5];
/** Layers under the rings that are laid slowly. */
const BASE_LAYERS = 2;
/** Share of a ring at each end that is not looked at: there it speeds up and slows down. */
const ENDS = 0.25;

export type Form = {
  sizes: Sizes;
  long: number;
  /** Depth of a ring and from one to the next, mm. */
  deep: number;
  stride: number;
  left: number;
  sign: SignSize;
};

export function formOf(
  spec: { layerHeight: number; rungHeight: number; long: number },
  bore: number,
  labels: readonly string[],
): Form {
  const sizes = sizesOf(spec, bore, BASE_LAYERS * spec.layerHeight);
  const sign = { unit: 2.4 * sizes.bead, stroke: 2 * sizes.bead };
  const deep = Math.max(4, 8 * sizes.bead);
  const wide = Math.max(...labels.map(textWidth)) * sign.unit + sign.stroke;
  return {
    sizes,
    long: spec.long,
    deep,
    stride: Math.max(deep + 2 * FOOT, signTall(sign)) + BETWEEN,
    left: -(BESIDE + FOOT + wide),
    sign,
  };
}

export const footprint = ({ left, long, deep, stride }: Form, rows: number): Box => ({
  minX: left,
  minY: -stride / 2,
  maxX: long + FOOT,
  maxY: (rows - 1) * stride + deep + stride / 2,
});

const ringOf = ({ long, deep, stride }: Form, row: number, around = 0): Region =>
  rect(-around, row * stride - around, long + around, row * stride + deep + around);

/** A ring and its foot. */
export const boxOfRow = ({ long, deep, stride }: Form, row: number): Box => ({
  minX: -FOOT,
  maxX: long + FOOT,
  minY: row * stride - FOOT,
  maxY: row * stride + deep + FOOT,
});

/** The middle of its rear wall: there its speed is reached, and what is pressed has come to rest since the ring began. */
export const middleOf = (form: Form, row: number): Box => ({
  ...boxOfRow(form, row),
  minY: row * form.stride + form.deep / 2,
  minX: ENDS * form.long,
  maxX: (1 - ENDS) * form.long,
});

export function layersOf(form: Form, labels: readonly string[]): Layer[] {
  const { sign, left, deep, stride } = form;
  const rows = labels.map((_, row) => row);
  // A foot is one more line around its wall: all of a ring filled would take longer than the test.
  const feet = rows.flatMap((row) =>
    subtract(ringOf(form, row, form.sizes.pitch), ringOf(form, row, -form.sizes.bead)),
  );
  const rings = rows.flatMap((row) => ringOf(form, row));
  const named = labels.flatMap((text, row) =>
    signAt(text, left, row * stride + deep / 2 - signTall(sign) / 2, sign),
  );
  return stackParts(
    form.sizes,
    1,
    (index) =>
      index === 0
        ? { outline: [...feet, ...named], solid: [], walls: 1 }
        : { outline: [...rings, ...named], solid: [], walls: 1 },
    () => rows.map((rung): Part => ({ rung, outline: ringOf(form, rung), solid: [], walls: 1 })),
  );
}

/** Plastic of all rings with their feet when all that is fed comes out, mm³. */
export const plasticOf = ({ sizes, long, deep }: Form, rows: number, section: number): number => {
  const around = 2 * (long + deep - 2 * sizes.bead);
  // A foot is two lines, every other layer one.
  return rows * around * section * (sizes.baseLayers + 1 + sizes.rungLayers);
};
