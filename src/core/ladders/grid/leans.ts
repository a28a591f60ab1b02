/**
 * Leans in rows and columns, turned over to be read: row behind row an angle, column beside column another setting.
 *
 *     ┌──┬────┬──    ┬────┬──    ┬────┬──
 *   60│  │    │▯→    │    │▯→    │    │▯→     bodies on strips of a thin sole, each leaning to the right over nothing
 *     ├──┼────┼──    ┼────┼──    ┼────┼──
 *   45│  │    │▯→    │    │▯→    │    │▯→
 *     └──┴────┴──────┴────┴──────┴────┴──
 *          20          40          60         what goes across, raised on the apron before its column
 */

import type { Box } from '../../bench/bed';
import type { Bench } from '../../bench/bench';
import type { Conditions } from '../../deposit/conditions';
import type { Layer, Part } from '../../deposit/layer';
import { tidy } from '../../numbers';
import { textWidth } from '../../shape/digits';
import { rect, union, type Region } from '../../shape/region';
import { signAt, signTall, type SignSize } from '../../shape/sign';
import { climb } from '../climb';
import { carryBySlicing } from '../commands';
import { LAID_FIELDS } from '../fields';
import { usualWalls } from '../one-setting';
import { bounds as leanBounds, overhang } from '../overhang/kind';
import { sizesOf, stackParts, type Sizes, type Tower } from '../tower';
import type { CriterionOf, Field, LadderKind, LimitsRule } from '../types';
import { strideOf } from './form';
import { acrossOf, towerPair, type Along, type GridSpec, type Marks, type Pair } from './pair';

/** Furthest that a lean reaches out, mm, and its height. */
const [MOST_REACH, LEAN] = [7, 3];
/** A body, mm or beads: deep enough for its lean to be laid at the speed under test. */
const BODY = { wide: 6, deep: 12, beads: 9 };
/** Free way from row to row and from column to column, mm. */
const BETWEEN = 3;
/** Layers of the sole, of the numbers on it, and of the straight foot over it. */
const [SOLE, NUMBERS, STRAIGHT] = [2, 2, 4];
const MARGIN = 1.2;
const [UNIT, STROKE] = [2.6, 2];
/** How long a fan takes to follow, s: most have come most of their way within one. */
const FAN_FOLLOWS = 3;

type Form = {
  sizes: Sizes;
  wide: number;
  deep: number;
  /** From row to row and from column to column, mm. */
  stride: number;
  across: number;
  left: number;
  apron: number;
  sign: SignSize;
};

function formOf(spec: Shape, bore: number, { rows }: Marks): Form {
  const { layerHeight } = spec;
  const asked = sizesOf(spec, bore, (SOLE + STRAIGHT) * layerHeight);
  const { bead, layer } = asked;
  const angles = climb(spec);
  const rungLayers = Math.min(asked.rungLayers, Math.max(...angles.map((a) => longest(layer, a))));
  const sizes = { ...asked, rungLayers, rung: tidy(rungLayers * layer) };
  const sign = { unit: UNIT * bead, stroke: STROKE * bead };
  const wide = Math.max(BODY.wide, BODY.beads * bead);
  return {
    sizes,
    wide,
    deep: spec.deep,
    stride: strideOf(Math.max(spec.deep, signTall(sign)) + BETWEEN),
    across: strideOf(wide + MOST_REACH + BETWEEN),
    left: -(Math.max(...rows.map(textWidth)) * sign.unit + sign.stroke + 2 * MARGIN),
    apron: signTall(sign) + 2 * MARGIN,
    sign,
  };
}

const outALayer = (layer: number, degrees: number): number =>
  layer * Math.tan((degrees * Math.PI) / 180);
const longest = (layer: number, degrees: number): number =>
  Math.max(1, Math.floor(MOST_REACH / outALayer(layer, degrees)));

const footprint = (form: Form, { rows, columns }: Marks): Box => ({
  minX: form.left,
  maxX: (columns.length - 1) * form.across + form.wide + MOST_REACH,
  minY: -form.stride / 2 - form.apron,
  maxY: (rows.length - 0.5) * form.stride,
});

function boxOf({ across, stride, deep, wide }: Form, row: number, column: number): Box {
  const [x, y] = [column * across, row * stride];
  return { minX: x, maxX: x + wide + MOST_REACH, minY: y - deep / 2, maxY: y + deep / 2 };
}
const leanOf = (form: Form, row: number, column: number): Box => {
  const box = boxOf(form, row, column);
  return { ...box, minX: box.minX + form.wide - 2 * form.sizes.bead };
};

function bodyOf(form: Form, row: number, column: number, out = 0): Region {
  const { minX, minY, maxY } = boxOf(form, row, column);
  return rect(minX, minY, minX + form.wide + out, maxY);
}

function layersOf(form: Form, walls: number, angles: readonly number[], marks: Marks): Layer[] {
  const { rows, columns } = marks;
  const { sizes, stride, across, wide, left, apron, sign } = form;
  const { minY, maxX, maxY } = footprint(form, marks);
  const foot = -stride / 2;
  const strips = columns.flatMap((_, i) =>
    rect(i * across - (i === 0 ? -left : 0), foot, i * across + wide, maxY),
  );
  const sole = union(strips, rect(left, minY, maxX - MOST_REACH, foot));
  const numbers = [
    ...rows.flatMap((text, i) =>
      signAt(text, left + MARGIN, i * stride - signTall(sign) / 2, sign),
    ),
    ...columns.flatMap((text, i) => {
      const wideOf = textWidth(text) * sign.unit + sign.stroke;
      return signAt(
        text,
        i * across + (wide - wideOf) / 2,
        minY + (apron - signTall(sign)) / 2,
        sign,
      );
    }),
  ];
  const bodies = rows.flatMap((_, row) =>
    columns.flatMap((_c, column) => bodyOf(form, row, column)),
  );
  return stackParts(
    sizes,
    1,
    (index) => {
      if (index < SOLE) return { outline: sole, solid: sole, walls: 1 };
      const named = index < SOLE + NUMBERS ? numbers : [];
      return { outline: [...bodies, ...named], solid: [], walls };
    },
    (_, within) =>
      // In the same order in every layer: there and back, those at the ends would be laid twice in a row, and cool less.
      columns.flatMap((_c, column) =>
        angles.flatMap((degrees, row): Part[] => {
          const steps = within + 1;
          if (steps > Math.min(sizes.rungLayers, longest(sizes.layer, degrees))) return [];
          const outline = bodyOf(form, row, column, steps * outALayer(sizes.layer, degrees));
          return [{ rung: row * columns.length + column, outline, solid: [], walls }];
        }),
      ),
  );
}

const FIELDS: Record<string, Field> = {
  rungHeight: { label: 'Height of a lean', unit: 'mm', min: 1, max: 20, step: 1 },
  deep: { label: 'Depth of a body', unit: 'mm', min: 5, max: 60, step: 1, folded: true },
  walls: { label: 'Walls', unit: '', min: 1, max: 3, step: 1, whole: true, folded: true },
  besides: {
    label: 'Speed of what is not tested',
    unit: 'mm/s',
    min: 5,
    max: 500,
    step: 5,
    folded: true,
  },
  ...LAID_FIELDS,
};

/** Speed of walls, mm/s, where it is not what is tested. */
const USUAL_SPEED = 40;

function usual(bench: Bench) {
  const { speed: besides, ...walls } = usualWalls(bench, USUAL_SPEED);
  return { ...walls, besides, rungHeight: LEAN, deep: BODY.deep, walls: 2 };
}
type Shape = GridSpec & ReturnType<typeof usual>;

export const leanAlong: Along = {
  setting: 'overhang',
  ends: [10, 85],
  range: () => ({ from: 42, to: 66, step: 6 }),
  bounds: ({ nozzle }) => ({
    ...leanBounds(nozzle.diameter),
    why: 'flatter than this ladder can lean it is a bridge, steeper a wall',
  }),
};

/** A pair whose cells are leans; what goes across is told to the layer by `conditions`. */
export function leansPair(
  pair: Pick<Pair, 'id' | 'title' | 'across' | 'reason' | 'standsOn'> & {
    limits: Omit<LimitsRule, 'over' | 'takes'>;
    tested: (plain: Conditions, value: number) => Conditions;
  },
): LadderKind<GridSpec> {
  const { tested, limits } = pair;
  const criteria: CriterionOf[] = [
    { name: 'overhang', weight: 1, where: 'the underside of the lean, turned over' },
  ];
  return towerPair(
    {
      ...pair,
      rows: 'behind',
      up: leanAlong,
      fields: FIELDS,
      usual,
      formSaid: ': for each cell a body that leans, {rungHeight} mm tall',
      least: [],
      limits: { ...limits, over: 'overhang', takes: 'safest' },
      criteria,
      otherCause: overhang.otherCause,
      carry: carryBySlicing,
    },
    (given, bench, marks): Omit<Tower, 'axes'> => {
      const spec = given as Shape;
      const form = formOf(spec, bench.nozzle.diameter, marks);
      const values = climb(acrossOf(spec));
      return {
        spec: { ...spec, speed: spec.besides, rungHeight: form.sizes.rung },
        sizes: form.sizes,
        layers: () => layersOf(form, spec.walls, climb(spec), marks),
        footprint: footprint(form, marks),
        digits: null,
        view: 'top',
        // What is slowed to cool would be no test.
        shortestLayer: 0,
        rung: ([row, column]) => ({
          boxes: [boxOf(form, row!, column!)],
          looked: leanOf(form, row!, column!),
        }),
        conditions: (plain, rung) =>
          rung === null ? plain : tested(plain, values[rung % values.length]!),
      };
    },
    (spec) => [{ ...spec, deep: 8 }],
  );
}

/** A fan is waited for where it changes. */
export const fanned = (plain: Conditions, fan: number): Conditions => ({
  ...plain,
  fan: { print: fan, bridge: fan },
  fanFollows: FAN_FOLLOWS,
});
export const atSpeed = (plain: Conditions, wall: number): Conditions => ({
  ...plain,
  speeds: { ...plain.speeds, wall, bridge: wall },
});
