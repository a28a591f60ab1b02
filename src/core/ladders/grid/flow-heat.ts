/** Flow and temperature: hot melt runs, cold melt comes in pulses, and a top closes with more or less of either. */

import type { Bench } from '../../bench/bench';
import { MATERIALS } from '../../bench/materials';
import { beadPitch } from '../../deposit/bead';
import { beadWidthOf, layerHeightOf } from '../../deposit/conditions';
import { climb } from '../climb';
import { carryBySlicing } from '../commands';
import { FLAT_FIELDS, PAD_FIELDS, PLACED } from '../fields';
import { filled, flatText, signHeight, signWidth, type PatternRung } from '../flat-pattern';
import { temperature } from '../temperature/kind';
import type { Field } from '../types';
import { acrossOf, patternPair, type GridSpec } from './pair';

/** Height, mm, at which the head crosses pads, and free way between them. */
const [OVER, GAP] = [3, 3];
/** Columns that the label's range is divided into. */
const COLUMNS = 4;

const fields: Record<string, Field> = {
  ...PAD_FIELDS,
  ...FLAT_FIELDS,
};

const usual = ({ nozzle }: Bench) => ({
  size: 10,
  layers: 5,
  layerHeight: layerHeightOf(nozzle.diameter),
  ...PLACED,
});
type Spec = GridSpec & ReturnType<typeof usual>;

export const flowHeat = patternPair(
  {
    id: 'flow-heat',
    title: 'Flow and temperature',
    rows: 'behind',
    up: {
      setting: 'flow',
      ends: [0.5, 1.5],
      range: () => ({ from: 0.88, to: 1.12, step: 0.04 }),
      bounds: () => ({ min: 0.7, max: 1.3, why: 'that far off, the extruder steps are wrong' }),
    },
    across: {
      setting: 'nozzle',
      ends: [150, 450],
      // Coldest at the left: a nozzle heats sooner than it cools, and every machine waits for that.
      range: ({ filament, machine }) => {
        const to = Math.min(filament.nozzle.max, machine.extruder.hottest);
        const step = Math.max(4, Math.floor((to - filament.nozzle.min) / (COLUMNS - 1)));
        return { from: to - (COLUMNS - 1) * step, to, step };
      },
      bounds: ({ machine, filament: { material } }) => ({
        min: MATERIALS[material].coldest,
        max: machine.extruder.hottest,
        why: `${machine.name} prints ${material} at ${MATERIALS[material].coldest} to ${machine.extruder.hottest} °C`,
      }),
    },
    fields,
    usual,
    formSaid: ': for each cell a pad of {size} mm',
    standsOn: ['steps', 'rotation'],
    least: [],
    criteria: [
      { name: 'gaps', weight: 1, where: 'between the lines on top' },
      { name: 'ridges', weight: 1, where: 'waves and scraped places on top' },
      { name: 'gloss', weight: 0.3, where: 'the tops, held against light' },
    ],
    reason:
      'Least plastic in front, coldest at the left. Each column is finished before the nozzle is heated for the next one.',
    otherCause:
      'When tops look the same at every flow and heat, the cause is usually a first layer that is too high or too low.',
    carry: (setting, value, bench) =>
      setting === 'nozzle'
        ? temperature.carry(setting, value, bench)
        : carryBySlicing(setting, value, bench),
  },
  (given, bench, { rows, columns }) => {
    const spec = given as Spec;
    const { size, layerHeight } = spec;
    const bead = Math.max(beadWidthOf(bench.nozzle.diameter), layerHeight);
    const pitch = beadPitch(bead, layerHeight);
    const stride = Math.max(size + GAP, signHeight(bead) + 1);
    const across = Math.max(size, ...columns.map((text) => signWidth(text, bead))) + GAP;
    const padAt = (row: number, column: number): PatternRung => {
      const [x, y] = [column * across, row * stride];
      const box = { minX: x, minY: y, maxX: x + size, maxY: y + size };
      const angle = (layer: number) => (layer % 2 === 0 ? 1 : 3) * (Math.PI / 4);
      const lines = Array.from({ length: spec.layers }, (_, layer) =>
        filled(box, bead, pitch, angle(layer)),
      );
      return { lines, boxes: [box] };
    };
    const right = (columns.length - 1) * across + size + 2;
    const front = -(signHeight(bead) + 2);
    return {
      spec,
      box: {
        minX: 0,
        minY: front,
        maxX: right + Math.max(...rows.map((text) => signWidth(text, bead))),
        maxY: (rows.length - 1) * stride + Math.max(size, signHeight(bead)),
      },
      marks: [
        ...columns.flatMap((text, column) => flatText(text, column * across, front, bead)),
        ...rows.flatMap((text, row) => {
          const y = row * stride + Math.max(0, (size - signHeight(bead)) / 2);
          return flatText(text, right, y, bead);
        }),
      ],
      rungs: rows.flatMap((_, row) => columns.map((_text, column) => padAt(row, column))),
      groups: climb(acrossOf(spec)).map((nozzle, column) => ({
        nozzle,
        rungs: rows.map((_, row) => row * columns.length + column),
      })),
      over: OVER,
    };
  },
  (spec) => [{ ...spec, size: 8 }],
  { drafted: true },
);
