/**
 * The form of a bridging ladder lies on the bed and is turned over to be read. Seen from above, and from its front:
 *
 *     ┌─┬───┬─┬──────┬─┬─────────┬─┐
 *   85│ │   │ │      │ │         │ │     four rails with free gaps of growing width between them, and across them a
 *     └─┴───┴─┴──────┴─┴─────────┴─┘     deck of strands for each value, all in the one top layer
 *     ┌─┬───┬─┬──────┬─┬─────────┬─┐
 *   80│ │   │ │      │ │         │ │     ▔█▔▔▔█▔▔▔▔▔▔█▔▔▔▔▔▔▔▔▔█▔   strands
 *     └─┴───┴─┴──────┴─┴─────────┴─┘     ▁█   █      █         █    rails, and the tab with the number
 *
 * Numbers are grooves in the underside of their tabs, the other way round: turned over sideways they read as they should.
 */

import type { Box } from '../../bench/bed';
import type { Layer, Part } from '../../deposit/layer';
import { textWidth } from '../../shape/digits';
import { rect, subtract, union, type Region } from '../../shape/region';
import { mirrored, signAt, signTall, type SignSize } from '../../shape/sign';
import { stackParts, type Sizes } from '../tower';
import { beadPitch } from '../../deposit/bead';
import { beadWidthOf } from '../../deposit/conditions';

/** Spans as shares of the longest. */
const SPANS = [1 / 3, 2 / 3, 1];
/** A rail is one wall there and one back; its foot reaches this far around it on the first layer, mm, to hold it. */
const WALLS = 1;
const FOOT = 0.8;
/** Strands of a deck, and free way from deck to deck, mm. */
const STRANDS = 14;
const BETWEEN = 1.5;
/** Room around the number on its tab, mm, and layers of the tab: the grooves, and what closes them. */
const AROUND = 1.2;
const TAB_LAYERS = 2;
/** Grid unit of numbers, beads, and how wide their grooves are: wide enough to stay open, narrow enough to be crossed. */
const [UNIT, GROOVE] = [2.6, 2];

export type Form = {
  sizes: Sizes;
  /** Left edges of the rails, mm, and how wide one is. */
  rails: number[];
  rail: number;
  /** Depth of a deck in y, and from one to the next, mm. */
  deep: number;
  stride: number;
  tab: number;
  sign: SignSize;
};

export function formOf(
  { layerHeight: layer, rails: tall, span }: { layerHeight: number; rails: number; span: number },
  bore: number,
  labels: readonly string[],
): Form {
  const bead = Math.max(beadWidthOf(bore), layer);
  const pitch = beadPitch(bead, layer);
  const baseLayers = Math.max(TAB_LAYERS + 1, Math.round(tall / layer));
  const rail = (2 * WALLS - 1) * pitch + bead;
  const sign = { unit: UNIT * bead, stroke: GROOVE * bead };
  const rails = [0];
  for (const share of SPANS) rails.push(rails.at(-1)! + rail + share * span);
  const deep = STRANDS * bore;
  return {
    sizes: { layer, bead, pitch, baseLayers, rungLayers: 1, rung: layer },
    rails,
    rail,
    deep,
    stride: Math.max(deep, signTall(sign) + 2 * AROUND) + BETWEEN,
    tab: Math.max(...labels.map(textWidth)) * sign.unit + sign.stroke + 2 * AROUND,
    sign,
  };
}

const endOf = ({ rails, rail }: Form): number => rails.at(-1)! + rail;

export const footprint = (form: Form, decks: number): Box => ({
  minX: -form.tab,
  maxX: endOf(form) + FOOT,
  minY: -form.stride / 2,
  maxY: (decks - 0.5) * form.stride,
});

/** A deck where it lies, mm. */
export const deckOf = (form: Form, deck: number): Box => {
  const y = deck * form.stride;
  return { minX: 0, maxX: endOf(form), minY: y - form.deep / 2, maxY: y + form.deep / 2 };
};

const regionOf = ({ minX, minY, maxX, maxY }: Box): Region => rect(minX, minY, maxX, maxY);

/** Grooves of a number as they are seen from above: mirrored about the middle of the tab. */
function groovesOf({ sign, tab }: Form, y: number, text: string): Region {
  const middle = -tab / 2;
  const wide = textWidth(text) * sign.unit + sign.stroke;
  return mirrored(signAt(text, middle - wide / 2, y - signTall(sign) / 2, sign), middle);
}

export function layersOf(form: Form, labels: readonly string[]): Layer[] {
  const { rails, rail, stride, tab, sizes } = form;
  const { minY, maxY } = footprint(form, labels.length);
  const standing: Region = rails.flatMap((x) => rect(x, minY, x + rail, maxY));
  const high = (stride - BETWEEN) / 2;
  const tabs: Region = labels.flatMap((_, i) =>
    rect(-tab, i * stride - high, 0, i * stride + high),
  );
  const named = union(standing, tabs);
  const feet = rails.flatMap((x) => rect(x - FOOT, minY, x + rail + FOOT, maxY));
  const open = subtract(
    union(feet, tabs),
    labels.flatMap((text, i) => groovesOf(form, i * stride, text)),
  );
  return stackParts(
    sizes,
    1,
    (index) =>
      index >= TAB_LAYERS
        ? { outline: standing, solid: [], walls: WALLS }
        : { outline: index === 0 ? open : named, solid: [...feet, ...tabs], walls: WALLS },
    () =>
      labels.map((_, rung): Part => {
        const deck = regionOf(deckOf(form, rung));
        return { rung, outline: deck, solid: deck, walls: 0 };
      }),
  );
}
