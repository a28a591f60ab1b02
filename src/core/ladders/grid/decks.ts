/**
 * Decks over open air, row behind row and column beside column, turned over to be read. Seen from above:
 *
 *     ┌──┬─┬──────┬─┐ ┌─┬──────┬─┐ ┌─┬──────┬─┐
 *   19│  │ │      │ │ │ │      │ │ │ │      │ │    two rails for each column, and across them a deck of strands for
 *     ├──┼─┼──────┼─┤ ├─┼──────┼─┤ ├─┼──────┼─┤    each value, all in the one top layer
 *    5│  │ │      │ │ │ │      │ │ │ │      │ │
 *     └──┴─┴──────┴─┘ └─┴──────┴─┘ └─┴──────┴─┘
 *          │  0   │     │  25  │     │  50  │      tabs with the number of each column
 *
 * Numbers are grooves in the underside of their tabs, the other way round: turned over sideways they read as they should.
 */

import type { Box } from '../../bench/bed';
import type { Bench } from '../../bench/bench';
import { beadPitch } from '../../deposit/bead';
import { beadWidthOf, type Conditions } from '../../deposit/conditions';
import type { Layer, Part } from '../../deposit/layer';
import { textWidth } from '../../shape/digits';
import { rect, subtract, union, type Region } from '../../shape/region';
import { mirrored, signAt, signTall, type SignSize } from '../../shape/sign';
import { LAID_FIELDS } from '../fields';
import { usualWalls } from '../one-setting';
import { stackParts, type Sizes, type Tower } from '../tower';
import type { Field, LadderKind } from '../types';
import { strideOf } from './form';
import { towerPair, type GridSpec, type Marks, type Pair } from './pair';

/** A rail's foot reaches this far around it on the first layer, mm, to hold it. */
const FOOT = 0.8;
/** Strands of a deck, and free way from deck to deck and from column to column, mm. */
const STRANDS = 14;
const [BETWEEN, BESIDE] = [1.5, 3];
/** Room around the number on its tab, mm, and layers of a tab: the grooves, and what closes them. */
const AROUND = 1.2;
const TAB_LAYERS = 2;
/** Grid unit of numbers, beads, and how wide their grooves are. */
const [UNIT, GROOVE] = [2.6, 2];
/** Free span of a deck and height of the rails, mm; and where a bed has no room for it. */
const [SPAN, RAILS, SHORT_SPAN] = [20, 2.4, 14];
/** How long a fan takes to follow, s. */
const FAN_FOLLOWS = 4;

type Form = {
  sizes: Sizes;
  rail: number;
  span: number;
  /** From one column and one deck to the next, and depth of a deck in y, mm. */
  across: number;
  stride: number;
  deep: number;
  /** Width of the tabs of rows, and depth of those of columns, mm. */
  tab: number;
  apron: number;
  sign: SignSize;
};

function formOf(
  {
    layerHeight: layer,
    rails: tall,
    span,
  }: GridSpec & { layerHeight: number; rails: number; span: number },
  bore: number,
  { rows }: Marks,
): Form {
  const bead = Math.max(beadWidthOf(bore), layer);
  const pitch = beadPitch(bead, layer);
  const rail = pitch + bead;
  const sign = { unit: UNIT * bead, stroke: GROOVE * bead };
  const deep = STRANDS * bore;
  return {
    sizes: {
      layer,
      bead,
      pitch,
      baseLayers: Math.max(TAB_LAYERS + 1, Math.round(tall / layer)),
      rungLayers: 1,
      rung: layer,
    },
    rail,
    span,
    across: strideOf(2 * rail + span + BESIDE),
    deep,
    stride: strideOf(Math.max(deep, signTall(sign) + 2 * AROUND) + BETWEEN),
    tab: Math.max(...rows.map(textWidth)) * sign.unit + sign.stroke + 2 * AROUND,
    apron: signTall(sign) + 2 * AROUND,
    sign,
  };
}

const footprint = (form: Form, { rows, columns }: Marks): Box => ({
  minX: -form.tab,
  maxX: (columns.length - 1) * form.across + 2 * form.rail + form.span + FOOT,
  minY: -form.stride / 2 - form.apron,
  maxY: (rows.length - 0.5) * form.stride,
});

/** A deck where it lies, from rail to rail, mm. */
function deckOf({ across, stride, deep, rail, span }: Form, row: number, column: number): Box {
  const [x, y] = [column * across, row * stride];
  return { minX: x, maxX: x + 2 * rail + span, minY: y - deep / 2, maxY: y + deep / 2 };
}

const regionOf = ({ minX, minY, maxX, maxY }: Box): Region => rect(minX, minY, maxX, maxY);

/** Grooves of a number as they are seen from above: mirrored about the middle of their tab. */
function groovesOf({ sign }: Form, text: string, middle: number, y: number): Region {
  const wide = textWidth(text) * sign.unit + sign.stroke;
  return mirrored(signAt(text, middle - wide / 2, y - signTall(sign) / 2, sign), middle);
}

function layersOf(form: Form, marks: Marks): Layer[] {
  const { rail, span, across, stride, tab, apron, sizes } = form;
  const { rows, columns } = marks;
  const { minY, maxY } = footprint(form, marks);
  const foot = -stride / 2;
  const rails = columns.flatMap((_, i) => [i * across, i * across + rail + span]);
  const standing: Region = rails.flatMap((x) => rect(x, foot, x + rail, maxY));
  const high = (stride - BETWEEN) / 2;
  const tabs: Region = [
    ...rows.flatMap((_, i) => rect(-tab, i * stride - high, 0, i * stride + high)),
    ...columns.flatMap((_, i) => rect(i * across, minY, i * across + 2 * rail + span, foot)),
  ];
  const named = union(standing, tabs);
  const feet = rails.flatMap((x) => rect(x - FOOT, foot, x + rail + FOOT, maxY));
  const grooves = [
    ...rows.flatMap((text, i) => groovesOf(form, text, -tab / 2, i * stride)),
    ...columns.flatMap((text, i) =>
      groovesOf(form, text, i * across + rail + span / 2, minY + apron / 2),
    ),
  ];
  const open = subtract(union(feet, tabs), grooves);
  return stackParts(
    sizes,
    1,
    (index) =>
      index >= TAB_LAYERS
        ? { outline: standing, solid: [], walls: 1 }
        : { outline: index === 0 ? open : named, solid: [...feet, ...tabs], walls: 1 },
    () =>
      // Column by column: what a fan has to follow changes as seldom as it may.
      columns.flatMap((_, column) =>
        rows.map((_row, row): Part => {
          const deck = regionOf(deckOf(form, row, column));
          return { rung: row * columns.length + column, outline: deck, solid: deck, walls: 0 };
        }),
      ),
  );
}

/** A fan takes seconds to follow: the head waits for it before a deck. */
const followedFan = (plain: Conditions): Conditions => ({ ...plain, fanFollows: FAN_FOLLOWS });

const FIELDS: Record<string, Field> = {
  span: { label: 'Span', unit: 'mm', min: 9, max: 60, step: 1 },
  rails: { label: 'Height of the rails', unit: 'mm', min: 1, max: 20, step: 0.2, folded: true },
  ...LAID_FIELDS,
};

function usual(bench: Bench) {
  const { rungHeight: _, speed: __, ...walls } = usualWalls(bench, Infinity);
  return { ...walls, span: SPAN, rails: RAILS };
}

/** A pair whose cells are decks. */
export const decksPair = (
  pair: Omit<Pair, 'rows' | 'fields' | 'usual' | 'formSaid'>,
): LadderKind<GridSpec> =>
  towerPair(
    {
      ...pair,
      rows: 'behind',
      fields: FIELDS,
      usual,
      formSaid: ': for each cell a deck of strands across a gap of {span} mm',
    },
    (given, bench, marks): Omit<Tower, 'axes'> => {
      const spec = given as GridSpec & ReturnType<typeof usual>;
      const form = formOf(spec, bench.nozzle.diameter, marks);
      const fan = [pair.up.setting, pair.across.setting].includes('bridgeFan');
      return {
        spec: { ...spec, speed: usualWalls(bench, Infinity).speed, rungHeight: form.sizes.rung },
        sizes: form.sizes,
        layers: () => layersOf(form, marks),
        footprint: footprint(form, marks),
        digits: null,
        view: 'top',
        rung: ([row, column]) => ({ boxes: [deckOf(form, row!, column!)] }),
        ...(fan ? { conditions: followedFan } : {}),
      };
    },
    (spec) => [{ ...spec, span: SHORT_SPAN }],
  );
