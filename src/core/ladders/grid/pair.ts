/**
 * Two settings in one print: one climbs upward or to the rear, one goes across. A pair says which two, the form of its
 * cells and which criteria speak; everything else follows.
 */

import type { Bench } from '../../bench/bench';
import { settingInfo, type Setting } from '../../bench/settings';
import { axisOf } from '../../plan/axes';
import { MOST_RUNGS, MOST_STEPS } from '../../plan/limits';
import type { Axis } from '../../plan/plan';
import { climb, fewer, type Range } from '../climb';
import { inBounds } from '../commands';
import { rangeFields, schemaOf } from '../fields';
import type { FlatPattern } from '../flat-pattern';
import { patternKind } from '../flat-pattern-kind';
import { fitting } from '../fitting';
import { warn, wholeSteps } from '../guards';
import type { Tower } from '../tower';
import { lyingKind, towerKind } from '../tower-kind';
import {
  BEST_ROWS,
  type CriterionOf,
  type Ends,
  type Field,
  type LadderKind,
  type LimitsRule,
  type Offer,
  type SpecPatch,
  type Warning,
} from '../types';

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
  /** Rows stand over each other, or behind each other on the bed. */
  rows: 'over' | 'behind';
  up: Along;
  across: Along;
  /** Its other inputs, and their values for a bench. */
  fields: Record<string, Field>;
  usual: (bench: Bench) => Record<string, number>;
  /** What the form is, as the sentence ends. */
  formSaid: string;
  standsOn: Setting[];
  /** Of which the least that is as good as the best is taken. */
  least: Setting[];
  /** Instead of a joint best: what is still clean of one at each step of the other. */
  limits?: LimitsRule;
  criteria: CriterionOf[];
  reason: string;
  otherCause: string;
  carry: LadderKind['carry'];
  /** Why a bench cannot print it. */
  unfit?: LadderKind['unfit'];
  /** What else can be said of a spec before anything is planned. */
  check?: (spec: GridSpec, bench: Bench) => Warning[];
};

/** Ends and steps of both settings, and the inputs of the form. */
export type GridSpec = Record<string, number> &
  Record<'from' | 'to' | 'step' | 'left' | 'right' | 'columnStep', number>;
/** What is called how in plastic. */
export type Marks = { rows: string[]; columns: string[] };

const fieldsOf = ({ rows, up, across, fields }: Pair): Record<string, Field> => {
  const side = rangeFields(across.setting, across.ends, settingInfo(across.setting).resolution, [
    'Left',
    'Right',
  ]);
  return {
    ...rangeFields(
      up.setting,
      up.ends,
      settingInfo(up.setting).resolution,
      rows === 'over' ? undefined : ['Front', 'Rear'],
    ),
    left: side.from,
    right: side.to,
    columnStep: { ...side.step, label: 'Step across' },
    ...fields,
  };
};

export const acrossOf = ({ left, right, columnStep }: GridSpec): Range => ({
  from: left,
  to: right,
  step: columnStep,
});

/** More cells than this are more than anybody scores with care. */
const MANY = 64;

/** Everything of a pair but how it is laid. */
export function pairBase(pair: Pair) {
  const { up, across: side, rows } = pair;
  const fields = fieldsOf(pair);
  const unit = (of: Along) => settingInfo(of.setting).unit;
  const [low, high] =
    rows === 'over' ? ['at the bottom', 'at the top'] : ['in front', 'at the rear'];
  // What a limit is sought of comes first: that is what the print tells.
  const finds: [Setting, Setting] = pair.limits
    ? [pair.limits.of, pair.limits.over]
    : [up.setting, side.setting];
  return {
    id: pair.id,
    title: pair.title,
    finds,
    spec: schemaOf(fields) as unknown as LadderKind<GridSpec>['spec'],
    fields,
    sentence:
      `Climb from {from} ${unit(up)} ${low} to {to} ${unit(up)} ${high} in steps of {step}, and go from {left} ` +
      `${unit(side)} at the left to {right} ${unit(side)} at the right in steps of {columnStep}${pair.formSaid}.`,
    reason: () => pair.reason,
    standsOn: pair.standsOn,
    ...(pair.unfit ? { unfit: pair.unfit } : {}),
    onDemand: true as const,
    defaults(bench: Bench): GridSpec {
      const columns = side.range(bench);
      return {
        ...pair.usual(bench),
        ...up.range(bench),
        left: columns.from,
        right: columns.to,
        columnStep: columns.step,
      };
    },
    check(spec: GridSpec, bench: Bench): Warning[] {
      const columns = acrossOf(spec);
      const named = (warnings: Warning[]) =>
        warnings.map((one) => ({
          ...one,
          where: ACROSS[one.where] ?? one.where,
          ...(one.offers ? { offers: one.offers.map(acrossOffer) } : {}),
        }));
      return [
        ...wholeSteps(spec, unit(up)),
        ...named(wholeSteps(columns, unit(side))),
        ...within(up, spec, bench),
        ...named(within(side, columns, bench)),
        ...many(spec),
        ...(pair.check?.(spec, bench) ?? []),
      ];
    },
    axes: (spec: GridSpec): [Axis, Axis] => [
      axisOf(up.setting, climb(spec), rows === 'over' ? 'z' : 'y'),
      axisOf(side.setting, climb(acrossOf(spec)), 'x'),
    ],
    bounds: (bench: Bench) => ({
      [up.setting]: up.bounds(bench),
      [side.setting]: side.bounds(bench),
    }),
    moved(spec: GridSpec, ranges: Partial<Record<Setting, Range>>): GridSpec {
      const columns = ranges[side.setting];
      return {
        ...spec,
        ...ranges[up.setting],
        ...(columns ? { left: columns.from, right: columns.to, columnStep: columns.step } : {}),
      };
    },
    criteria: pair.criteria,
    rule: pair.limits
      ? { kind: 'limits' as const, ...pair.limits }
      : { kind: 'plane' as const, least: pair.least },
    measures: pair.limits
      ? []
      : [
          {
            key: BEST_ROWS,
            label: 'Best row of each column',
            unit: '',
            min: 0,
            max: MOST_RUNGS - 1,
            fewest: 1,
            most: MOST_STEPS,
            how: 'Compare the cells of a column with each other, and tap the one that looks best.',
            tapped: true as const,
          },
        ],
    carry: pair.carry,
    otherCause: pair.otherCause,
  };
}

const marksOf = (pair: ReturnType<typeof pairBase>, spec: GridSpec): Marks => {
  const [rows, columns] = pair
    .axes(spec)
    .map(({ steps }) => steps.map(({ mark, label }) => mark ?? label)) as [string[], string[]];
  return { rows, columns };
};

type Form<Laid> = (spec: GridSpec, bench: Bench, marks: Marks) => Laid;

/** A pair on a form that is told by its layers: a tower, or cells that lie on the bed. */
export function towerPair(
  pair: Pair,
  form: Form<Omit<Tower, 'axes'>>,
  smaller: (spec: GridSpec) => GridSpec[] = () => [],
): LadderKind<GridSpec> {
  const base = pairBase(pair);
  const kind = {
    ...base,
    tower: (spec: GridSpec, bench: Bench) => form(spec, bench, marksOf(base, spec)),
  };
  return fitting(
    pair.rows === 'over' ? towerKind(kind) : lyingKind(kind, { drafted: true }),
    onSmallBeds(smaller),
  );
}

/** A pair of strokes on the bed. */
export function patternPair(
  pair: Pair,
  pattern: Form<Omit<FlatPattern, 'axes'>>,
  smaller: (spec: GridSpec) => GridSpec[] = () => [],
  drawn: { drafted?: boolean } = {},
): LadderKind<GridSpec> {
  const base = pairBase(pair);
  return fitting(
    patternKind<GridSpec>(
      { ...base, pattern: (spec, bench) => pattern(spec, bench, marksOf(base, spec)) },
      drawn,
    ),
    onSmallBeds(smaller),
  );
}

/** On a small bed first what the pair itself can be smaller by, then fewer columns, then fewer rows too. */
const onSmallBeds =
  (smaller: (spec: GridSpec) => GridSpec[]) =>
  (usual: GridSpec): GridSpec[] => {
    const near = smaller(usual);
    const last = fewerColumns(near.at(-1) ?? usual);
    return [...near, last, fewerRows(last)];
  };

function fewerColumns(spec: GridSpec): GridSpec {
  const { to, step } = fewer(acrossOf(spec));
  return { ...spec, right: to, columnStep: step };
}

const fewerRows = (spec: GridSpec): GridSpec => ({ ...spec, ...fewer(spec) });

/** A mend of the columns' range. */
const acrossOffer = ({ label, patch }: Offer): Offer => ({
  label,
  patch: Object.fromEntries(
    Object.entries(patch).map(([key, value]) => [ACROSS[key] ?? key, value]),
  ),
});

const ACROSS: Record<string, string> = { from: 'left', to: 'right', step: 'columnStep' };

function within({ setting, bounds }: Along, range: Range, bench: Bench): Warning[] {
  const { why, ...ends } = bounds(bench);
  return inBounds(setting, range, ends, why);
}

/** A grid that nobody scores to its end is not worth its plastic; the smaller one is offered. */
function many(spec: GridSpec): Warning[] {
  const [rows, columns] = [climb(spec).length, climb(acrossOf(spec)).length];
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
