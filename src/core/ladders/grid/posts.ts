/** Pairs of posts, row over row and column beside column: what strings is seen between them. */

import type { Bench } from '../../bench/bench';
import { tidy } from '../../numbers';
import { readableRung } from '../body';
import { climb } from '../climb';
import { TOWER_FIELDS } from '../fields';
import { usualWalls } from '../one-setting';
import { sizesOf } from '../tower';
import type { Field, LadderKind } from '../types';
import { boxOfColumn, footprint, SOLE, gridForm, layersOf, twoPosts } from './form';
import { towerPair, type GridSpec, type Pair } from './pair';

/** Free way between the posts of a cell, mm, and where a bed has no room for it. */
const [GAP, NARROW] = [12, 8];
/** Lower rows, mm, have no room for readable digits. */
const LOWEST_ROW = 4;
/** Speed of walls, mm/s, that posts as slender as these bear. */
const FASTEST = 32;

const FIELDS: Record<string, Field> = {
  gap: { label: 'Gap', unit: 'mm', min: 5, max: 60, step: 1, folded: true },
  ...TOWER_FIELDS,
};

/** The lowest row, mm, whose digits can be read: a whole number of layers. */
const tallEnough = (layer: number): number =>
  tidy(layer * Math.ceil(Math.max(LOWEST_ROW, layer > 0.25 ? readableRung(layer) : 0) / layer));

function usual(bench: Bench) {
  const walls = usualWalls(bench, FASTEST);
  // A tube asks for long ways back: with little fed in between, the gear would chew one place again and again.
  const rounds = bench.machine.extruder.drive === 'direct' ? 1 : 2;
  return { ...walls, rungHeight: tallEnough(walls.layerHeight), gap: GAP, walls: rounds };
}

/** A pair whose cells are two posts each. */
export const postsPair = (
  pair: Omit<Pair, 'rows' | 'fields' | 'usual' | 'formSaid'>,
): LadderKind<GridSpec> =>
  towerPair(
    {
      ...pair,
      rows: 'over',
      fields: FIELDS,
      usual,
      formSaid: ', each row {rungHeight} mm tall',
    },
    (spec, bench, { rows, columns }) => {
      const { layerHeight, rungHeight, gap, walls } = spec as GridSpec & ReturnType<typeof usual>;
      const sizes = sizesOf({ layerHeight, rungHeight }, bench.nozzle.diameter, SOLE);
      const form = gridForm(sizes, twoPosts(sizes.bead, gap, walls), rows, columns);
      return {
        spec: spec as GridSpec & ReturnType<typeof usual>,
        sizes,
        layers: () => layersOf(form),
        footprint: footprint(form),
        digits: form.body.digits,
        ...(pair.up.setting === 'nozzle' ? { nozzle: climb(spec)[0]! } : {}),
        rung: ([, column]) => ({ boxes: [boxOfColumn(form, column!)] }),
      };
    },
    (spec) => [{ ...spec, gap: NARROW }],
  );
