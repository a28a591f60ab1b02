/**
 * Two settings in one print: one climbs upward, one goes across. A pair says which two, the form of a cell and which
 * criteria speak; everything else follows.
 */

import type { Bench } from '../../bench/bench';
import { settingInfo, type Setting } from '../../bench/settings';
import { STEP_SLACK, tidy } from '../../numbers';
import { axisOf } from '../../plan/axes';
import { MOST_RUNGS, MOST_STEPS } from '../../plan/limits';
import type { Axis } from '../../plan/plan';
import { climb, type Range } from '../climb';
import { rangeFields, schemaOf, TOWER_FIELDS } from '../fields';
import { warn, wholeSteps } from '../guards';
import { usualWalls } from '../one-setting';
import { sizesOf } from '../tower';
import { towerKind } from '../tower-kind';
import {
  BEST_ROWS,
  type CriterionOf,
  type Ends,
  type LadderKind,
  type SpecPatch,
  type Warning,
} from '../types';
import { readableRung } from '../body';
import { inBounds } from '../commands';
import {
  boxOfColumn,
  footprint,
  SOLE,
  gridForm,
  layersOf,
  type CellForm,
  type GridForm,
} from './form';

type Bounds = (bench: Bench) => Ends & { why: string };
/** One of the two: what it climbs by default, and what the bench allows. */
export type Along = {
  setting: Setting;
  ends: [number, number];
  range: (bench: Bench) => Range;
  bounds: Bounds;
};

export type Pair = {
  id: string;
  title: string;
  up: Along;
  across: Along;
  /** Speed of walls, mm/s, that forms of this size bear. */
  fastest: number;
  cell: (spec: GridSpec, bead: number) => CellForm;
  standsOn: Setting[];
  /** Of which the least that is as good as the best is taken. */
  least: Setting[];
  criteria: CriterionOf[];
  reason: string;
  otherCause: string;
  carry: LadderKind['carry'];
};

const fieldsOf = ({ up, across }: Pick<Pair, 'up' | 'across'>) => {
  const side = rangeFields(across.setting, across.ends, settingInfo(across.setting).resolution, [
    'Left',
    'Right',
  ]);
  return {
    ...rangeFields(up.setting, up.ends, settingInfo(up.setting).resolution),
    left: side.from,
    right: side.to,
    columnStep: { ...side.step, label: 'Step across' },
    gap: { label: 'Gap', unit: 'mm', min: 5, max: 60, step: 1, folded: true as const },
    ...TOWER_FIELDS,
  };
};
export type GridSpec = { [K in keyof ReturnType<typeof fieldsOf>]: number };

const across = ({ left, right, columnStep }: GridSpec): Range => ({
  from: left,
  to: right,
  step: columnStep,
});
/** The lowest row, mm, whose digits can be read: a whole number of layers. */
const tallEnough = (layer: number): number =>
  tidy(layer * Math.ceil(Math.max(LOWEST_ROW, layer > 0.25 ? readableRung(layer) : 0) / layer));
const GAP = 12;
/** Lower rows, mm, have no room for readable digits. */
const LOWEST_ROW = 4;
/** More cells than this are more than anybody scores with care. */
const MANY = 64;

export function pairKind(pair: Pair): LadderKind<GridSpec> {
  const { up, across: side } = pair;
  const fields = fieldsOf(pair);
  const axesOf = (spec: GridSpec): [Axis, Axis] => [
    axisOf(up.setting, climb(spec), 'z'),
    axisOf(side.setting, climb(across(spec)), 'x'),
  ];
  const formOf = (spec: GridSpec, bench: Bench): GridForm => {
    const sizes = sizesOf(spec, bench.nozzle.diameter, SOLE);
    const [rows, columns] = axesOf(spec).map(({ steps }) =>
      steps.map(({ mark, label }) => mark ?? label),
    ) as [string[], string[]];
    return gridForm(sizes, pair.cell(spec, sizes.bead), rows, columns);
  };
  const unit = (of: Along) => settingInfo(of.setting).unit;
  const kind = towerKind<GridSpec>({
    id: pair.id,
    title: pair.title,
    finds: [up.setting, side.setting],
    spec: schemaOf(fields),
    fields,
    sentence:
      `Climb from {from} ${unit(up)} at the bottom to {to} ${unit(up)} at the top in steps of {step}, and go from {left} ` +
      `${unit(side)} at the left to {right} ${unit(side)} at the right in steps of {columnStep}, each row {rungHeight} mm tall.`,
    reason: () => pair.reason,
    standsOn: pair.standsOn,
    onDemand: true,
    defaults(bench) {
      const columns = side.range(bench);
      const walls = usualWalls(bench, pair.fastest);
      return {
        ...walls,
        rungHeight: tallEnough(walls.layerHeight),
        ...up.range(bench),
        left: columns.from,
        right: columns.to,
        columnStep: columns.step,
        gap: GAP,
        walls: 1,
      };
    },
    check(spec, bench) {
      const columns = across(spec);
      const named = (warnings: Warning[]) =>
        warnings.map((one) => ({ ...one, where: ACROSS[one.where] ?? one.where }));
      return [
        ...wholeSteps(spec, unit(up)),
        ...named(wholeSteps(columns, unit(side))),
        ...within(up, spec, bench),
        ...named(within(side, columns, bench)),
        ...many(spec),
      ];
    },
    axes: axesOf,
    tower(spec, bench) {
      const form = formOf(spec, bench);
      return {
        spec,
        sizes: form.sizes,
        layers: () => layersOf(form),
        footprint: footprint(form),
        digits: form.body.digits,
        ...(up.setting === 'nozzle' ? { nozzle: climb(spec)[0]! } : {}),
        rung: ([, column]) => ({ boxes: [boxOfColumn(form, column!)] }),
      };
    },
    bounds: (bench) => ({ [up.setting]: up.bounds(bench), [side.setting]: side.bounds(bench) }),
    moved(spec, ranges) {
      const columns = ranges[side.setting];
      return {
        ...spec,
        ...ranges[up.setting],
        ...(columns ? { left: columns.from, right: columns.to, columnStep: columns.step } : {}),
      };
    },
    criteria: pair.criteria,
    rule: { kind: 'plane', least: pair.least },
    measures: [
      {
        key: BEST_ROWS,
        label: 'Best row of each column',
        unit: '',
        min: 0,
        max: MOST_RUNGS - 1,
        fewest: 1,
        most: MOST_STEPS,
        how: 'Compare the cells of a column with each other, and tap the one that looks best.',
        tapped: true,
      },
    ],
    carry: pair.carry,
    otherCause: pair.otherCause,
  });
  /** On a small bed narrower gaps, then fewer columns. */
  const fitting = (bench: Bench): GridSpec => {
    const usual = kind.defaults(bench);
    const near = { ...usual, gap: 8 };
    const all = [usual, near, fewer(near)];
    const fits = all.find((one) => kind.check(one, bench).every(({ grade }) => grade !== 'stop'));
    return fits ?? usual;
  };
  return { ...kind, defaults: fitting };
}

/** Columns twice as far apart, as many as fit between the same ends. */
function fewer(spec: GridSpec): GridSpec {
  const columnStep = tidy(2 * spec.columnStep);
  const steps = Math.floor(Math.abs(spec.right - spec.left) / columnStep + STEP_SLACK);
  const way = spec.right < spec.left ? -1 : 1;
  return { ...spec, columnStep, right: tidy(spec.left + way * steps * columnStep) };
}

const ACROSS: Record<string, string> = { from: 'left', to: 'right', step: 'columnStep' };

function within({ setting, bounds }: Along, range: Range, bench: Bench): Warning[] {
  const { why, ...ends } = bounds(bench);
  return inBounds(setting, range, ends, why);
}

/** A grid that nobody scores to its end is not worth its plastic; the smaller one is offered. */
function many(spec: GridSpec): Warning[] {
  const [rows, columns] = [climb(spec).length, climb(across(spec)).length];
  if (rows * columns <= MANY) return [];
  const patch: SpecPatch =
    rows >= columns ? { step: 2 * spec.step } : { columnStep: 2 * spec.columnStep };
  return [
    {
      ...warn(
        'warning',
        'many-cells',
        'step',
        `${rows} × ${columns} are ${rows * columns} cells to look at.`,
        'Take larger steps: a second, finer grid around the best tells more.',
      ),
      offers: [{ label: 'Steps twice as large', patch }],
    },
  ];
}
