/** Temperature and fan: what droops and sags hot may hold with more air, and air keeps layers from growing together. */

import type { Bench } from '../../bench/bench';
import { tidy } from '../../numbers';
import { climb } from '../climb';
import { OVERHANG_FIELD, TOWER_FIELDS } from '../fields';
import { usualWalls } from '../one-setting';
import { dimensionsOf, section } from '../temperature/form';
import { temperature } from '../temperature/kind';
import { sizesOf } from '../tower';
import type { Field } from '../types';
import { boxOfColumn, footprint, gridForm, layersOf, SOLE, type CellForm } from './form';
import { heats } from './heat-retraction';
import { fanned } from './leans';
import { acrossOf, towerPair, type GridSpec } from './pair';

/** Span of a deck, its bodies and its depth, mm; lean of the prow, degrees; layers of a row. */
const [SPAN, BODY, DEPTH, LEAN, LAYERS] = [12, 5, 8, 55, 21];
/** Lower rows, mm, have no room for readable digits. */
const LOWEST_ROW = 4;
/** Layers of a small form are short: faster walls would only be slowed again. */
const FASTEST = 20;

const fields: Record<string, Field> = {
  span: { label: 'Span', unit: 'mm', min: 8, max: 40, step: 1, folded: true },
  overhangDeg: OVERHANG_FIELD,
  ...TOWER_FIELDS,
};

function usual(bench: Bench) {
  const walls = usualWalls(bench, FASTEST);
  const { layerHeight } = walls;
  const layers = Math.max(LAYERS, Math.ceil(LOWEST_ROW / layerHeight));
  return {
    ...walls,
    rungHeight: tidy(layers * layerHeight),
    walls: 1,
    span: SPAN,
    overhangDeg: LEAN,
  };
}
type Spec = GridSpec & ReturnType<typeof usual>;

/** Two small bodies with a deck between them, and a prow that leans out of the right one. */
function deckAndLean(spec: Spec, bore: number): { cell: CellForm; end: number; reach: number } {
  const dims = dimensionsOf(spec, bore, {
    depth: DEPTH,
    left: BODY,
    body: BODY,
    bare: true,
  });
  const { end, depth, prow } = dims;
  const cell: CellForm = {
    wide: end + prow.reach,
    deep: depth,
    between: 4,
    sections: (within) => [{ ...section(dims, spec.walls, within, ''), walls: spec.walls }],
    order: 'same',
  };
  return { cell, end, reach: prow.reach };
}

export const heatFan = towerPair(
  {
    id: 'heat-fan',
    title: 'Temperature and fan',
    rows: 'over',
    up: {
      setting: 'nozzle',
      ends: [150, 450],
      range: (bench) => heats(bench, 0),
      bounds: (bench) => ({
        ...temperature.bounds(bench).nozzle!,
        why: `${bench.machine.name} prints ${bench.filament.material} no hotter and no colder`,
      }),
    },
    across: {
      setting: 'fan',
      ends: [0, 1],
      range: () => ({ from: 0, to: 1, step: 0.25 }),
      bounds: () => ({ min: 0, max: 1, why: 'a fan gives no more than all' }),
    },
    fields,
    usual,
    formSaid: ', each row {rungHeight} mm tall',
    standsOn: [],
    least: ['fan'],
    criteria: [
      { name: 'bridging', weight: 0.8, where: 'the deck seen from below' },
      { name: 'overhang', weight: 0.6, where: 'under the prow at the right of a cell', box: 1 },
      { name: 'layer adhesion', weight: 0.8, where: 'the bodies, broken off from the top down' },
    ],
    reason:
      'Hottest at the bottom, so that a cold start cannot jam; least air at the left. The least air that holds keeps layers ' +
      'together.',
    otherCause: temperature.otherCause,
    carry: (setting, value, bench) =>
      setting === 'nozzle'
        ? temperature.carry(setting, value, bench)
        : {
            lines: [],
            say: `Enter ${Math.round(100 * value)} % as the fan of ${bench.filament.name} in your slicer. It goes with the temperature.`,
          },
  },
  (given, bench, { rows, columns }) => {
    const spec = given as Spec;
    const sizes = sizesOf(spec, bench.nozzle.diameter, SOLE);
    const { cell, end, reach } = deckAndLean(spec, bench.nozzle.diameter);
    const form = gridForm(sizes, cell, rows, columns);
    const fans = climb(acrossOf(spec));
    return {
      spec,
      sizes,
      layers: () => layersOf(form),
      footprint: footprint(form),
      digits: form.body.digits,
      nozzle: climb(spec)[0]!,
      // Full from the first row on: on the sole it still rises.
      conditions: (plain, rung) =>
        rung === null
          ? plain
          : { ...fanned(plain, fans[rung % fans.length]!), fanFullAt: sizes.baseLayers },
      rung: ([, column]) => {
        const box = boxOfColumn(form, column!);
        const left = box.minX + cell.between / 2;
        const prow = { ...box, minX: left + end + 0.25 * reach };
        return { boxes: [box, prow] };
      },
    };
  },
  (spec) => [
    { ...spec, span: 9 },
    { ...spec, span: 9, columnStep: (spec.right - spec.left) / 2 },
    { ...spec, span: 8, overhangDeg: 45, columnStep: (spec.right - spec.left) / 2 },
  ],
);
