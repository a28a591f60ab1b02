/**
 * The form of an overhang ladder: a small body for every angle, row behind row on one thin sole, each leaning to the
 * right over nothing. All are laid layer by layer together, so every lean has the same time to set:
 *
 *     ┌────┬─────┐                    ___/
 *     │ 75 │  ▯→ │        from the   |  /     the lean, its underside open to the eye once the sole is turned over
 *     │ 70 │  ▯→ │        front:     | |      straight foot
 *     │ 65 │  ▯→ │                 ▁▁|_|▁     sole with the numbers
 */

import type { Box } from '../../bench/bed';
import type { Layer, Part } from '../../deposit/layer';
import { textWidth } from '../../shape/digits';
import { rect, type Region } from '../../shape/region';
import { signAt, signTall, type SignSize } from '../../shape/sign';
import { sizesOf, stackParts, type Sizes } from '../tower';

/** Furthest that a lean reaches out, mm: further, it would break off before it is judged. */
const MOST_REACH = 10;
/** A body, mm or beads. */
const BODY = { wide: 8, deep: 6, beads: 10 };
/** Free way from body to body, mm. */
const BETWEEN = 2.5;
/** Layers of the sole, of the numbers on it, and of the straight foot of a lean over the sole. */
const [SOLE, NUMBERS, STRAIGHT] = [2, 2, 5];
/** Sole around what stands on it, mm. */
const MARGIN = 1.2;
/** Grid unit of numbers and width of their strokes, beads. */
const [UNIT, STROKE] = [2.8, 2];

export type Form = {
  sizes: Sizes;
  wide: number;
  deep: number;
  stride: number;
  /** Where the numbers begin in x, mm. */
  left: number;
  sign: SignSize;
};

export function formOf(
  spec: { layerHeight: number; rungHeight: number },
  bore: number,
  angles: readonly number[],
  labels: readonly string[],
): Form {
  const asked = sizesOf(spec, bore, (SOLE + STRAIGHT) * spec.layerHeight);
  const { bead, layer } = asked;
  // No layer is left empty: where all leans end early, so does the print.
  const rungLayers = Math.min(
    asked.rungLayers,
    Math.max(...angles.map((degrees) => longest(layer, degrees))),
  );
  const sizes = { ...asked, rungLayers, rung: rungLayers * layer };
  const sign = { unit: UNIT * bead, stroke: STROKE * bead };
  const deep = Math.max(BODY.deep, BODY.beads * bead);
  return {
    sizes,
    wide: Math.max(BODY.wide, BODY.beads * bead),
    deep,
    stride: Math.max(deep, signTall(sign)) + BETWEEN,
    left: -(Math.max(...labels.map(textWidth)) * sign.unit + sign.stroke + 2 * MARGIN),
    sign,
  };
}

export const footprint = (form: Form, rows: number): Box => ({
  minX: form.left - MARGIN,
  maxX: form.wide + MOST_REACH,
  minY: -form.stride / 2,
  maxY: (rows - 0.5) * form.stride,
});

/** A row: where its rung is. */
export const boxOfRow = ({ wide, deep, stride }: Form, row: number): Box => ({
  minX: 0,
  maxX: wide + MOST_REACH,
  minY: row * stride - deep / 2,
  maxY: row * stride + deep / 2,
});

/** The lean of a row, and nothing else. */
export const boxOfLean = (form: Form, row: number): Box => ({
  ...boxOfRow(form, row),
  minX: form.wide - 2 * form.sizes.bead,
});

const outALayer = (layer: number, degrees: number): number =>
  layer * Math.tan((degrees * Math.PI) / 180);

/** Layers until a lean reaches as far out as it may; at least one. */
const longest = (layer: number, degrees: number): number =>
  Math.max(1, Math.floor(MOST_REACH / outALayer(layer, degrees)));

/**
 * How far a lean stands out in the layer `within` of it, mm; whole layers, so that the angle is exact. Null where it
 * has ended: nothing could stand on its open end.
 */
function leanAt({ layer, rungLayers }: Sizes, degrees: number, within: number): number | null {
  const steps = within + 1;
  const ended = steps > Math.min(rungLayers, longest(layer, degrees));
  return ended ? null : steps * outALayer(layer, degrees);
}

function bodyOf({ wide, deep, stride }: Form, row: number, out = 0): Region {
  const y = row * stride;
  return rect(0, y - deep / 2, wide + out, y + deep / 2);
}

const numberOf = ({ left, sign, stride }: Form, row: number, text: string): Region =>
  signAt(text, left + MARGIN, row * stride - signTall(sign) / 2, sign);

export function layersOf(
  form: Form,
  walls: number,
  angles: readonly number[],
  labels: readonly string[],
): Layer[] {
  const { left, wide } = form;
  const { minY, maxY } = footprint(form, angles.length);
  const sole = rect(left - MARGIN, minY, wide, maxY);
  const bodies = angles.flatMap((_, row) => bodyOf(form, row));
  const numbers = labels.flatMap((text, row) => numberOf(form, row, text));
  return stackParts(
    form.sizes,
    1,
    (index) => {
      if (index < SOLE) return { outline: sole, solid: sole, walls: 1 };
      const named = index < SOLE + NUMBERS ? numbers : [];
      return { outline: [...bodies, ...named], solid: [], walls };
    },
    (_, within) =>
      angles.flatMap((degrees, rung): Part[] => {
        const out = leanAt(form.sizes, degrees, within);
        return out === null ? [] : [{ rung, outline: bodyOf(form, rung, out), solid: [], walls }];
      }),
  );
}
