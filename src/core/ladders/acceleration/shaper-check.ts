/**
 * Shaper check: the ringing form twice side by side, without and with the input shaper, over acceleration. What it takes
 * away is seen beside what was there, and so is how much harder the machine may be driven with it.
 *
 *     ┌────┐   ┌────┐
 *     │4000│   │4000│     rungs of acceleration, the gentlest at the bottom
 *     │ 800│   │ 800│
 *     └────┘   └────┘
 *       0        45       frequency of the shaper, Hz, flat on the bed before each: 0 is none
 */

import type { Box } from '../../bench/bed';
import type { Bench } from '../../bench/bench';
import { settingInfo } from '../../bench/settings';
import {
  AXIS_NAMES,
  kindsTaken,
  noShaper,
  shaperValues,
  shaperWay,
  shapingIn,
  type AxisName,
  type Shaping,
} from '../../bench/shaper';
import type { Layer, Part } from '../../deposit/layer';
import { SHAPERS, SHAPER_TITLES } from '../../dialect/shapers';
import { short } from '../../numbers';
import { axisOf } from '../../plan/axes';
import type { Axis } from '../../plan/plan';
import { textWidth } from '../../shape/digits';
import type { Region } from '../../shape/region';
import { signAt, signTall } from '../../shape/sign';
import { bodyAt } from '../body';
import { climb, type Range } from '../climb';
import { labelsOf } from '../climbing';
import { carryByCommand, inBounds, needsCommand } from '../commands';
import { choice, rangeFields, schemaOf, TOWER_FIELDS } from '../fields';
import { fitting } from '../fitting';
import { warn, wholeSteps } from '../guards';
import { stackParts } from '../tower';
import { towerKind } from '../tower-kind';
import type { Field, LadderKind, Warning } from '../types';
import { footOf, formOf, type Form } from './form';
import { calm, drive, slowestAxis } from './kind';

type Spec = Range & {
  frequency: number;
  frequencyY: number;
  type: number;
  typeY: number;
  damping: number;
  dampingY: number;
  side: number;
  rungHeight: number;
  speed: number;
  walls: number;
  layerHeight: number;
  brim: number;
  skirtLoops: number;
  shiftX: number;
  shiftY: number;
};

/** Frequency that most frames ring near, Hz, until somebody has measured theirs. */
const USUAL_HZ = 42;
/** Free way between the two rings, and from signs to rings, mm. */
const [BETWEEN, BEFORE] = [12, 2];
const acceleration = drive.find(({ id }) => id === 'acceleration') as unknown as LadderKind<
  Spec & { axes: number; growing: number }
>;

const hertz = (label: string): Field => ({
  label,
  unit: 'Hz',
  min: 0,
  max: 200,
  step: settingInfo('shaper').resolution,
});
const ratio = (label: string): Field => ({ label, unit: '', min: 0, max: 0.5, step: 0.005 });
/** Inputs that are seldom changed by hand: what was measured stands in them. */
const OWN = { folded: true } as const;
const fields: Record<string, Field> = {
  ...rangeFields('acceleration', [50, 100_000], settingInfo('acceleration').resolution),
  growing: acceleration.fields.growing!,
  frequency: { ...hertz('Frequency of the shaper'), min: 5 },
  frequencyY: { ...hertz('Frequency in y, where the machine has one of its own'), ...OWN, min: 5 },
  type: {
    ...choice(
      'Kind of shaper, where the machine takes one',
      SHAPERS.map((one) => SHAPER_TITLES[one]),
    ),
    ...OWN,
  },
  typeY: {
    ...choice(
      'Kind in y, where the machine has one of its own',
      SHAPERS.map((one) => SHAPER_TITLES[one]),
    ),
    ...OWN,
  },
  damping: { ...ratio('Damping'), ...OWN },
  dampingY: { ...ratio('Damping in y, where the machine has one of its own'), ...OWN },
  side: { label: 'Length of a face', unit: 'mm', min: 20, max: 200, step: 5 },
  ...TOWER_FIELDS,
};

const steps = (spec: Spec): [number, number] => [0, spec.frequency];
const shapingOf = (spec: Spec, axis: AxisName): Shaping =>
  axis === 'x'
    ? { type: SHAPERS[spec.type]!, hz: spec.frequency, damping: spec.damping }
    : { type: SHAPERS[spec.typeY]!, hz: spec.frequencyY, damping: spec.dampingY };

/** Inputs that print with these shapers. */
export const shaperInputs = (x: Shaping, y: Shaping) => ({
  frequency: x.hz,
  frequencyY: y.hz,
  type: SHAPERS.indexOf(x.type),
  typeY: SHAPERS.indexOf(y.type),
  damping: x.damping,
  dampingY: y.damping,
});

/** Columns without and with the shaper, of both axes at once, named by the frequency in x. */
function shaperAxis(spec: Spec, { machine: { dialect } }: Bench): Axis {
  const own = shaperWay(dialect) === 'axes';
  return axisOf(own ? 'shaperX' : 'shaper', steps(spec), 'x', (hz) => {
    if (hz === 0) return noShaper(dialect);
    return {
      ...shaperValues(dialect, 'x', shapingOf(spec, 'x')),
      ...(own ? shaperValues(dialect, 'y', shapingOf(spec, 'y')) : {}),
    };
  });
}
const signOf = ({ sizes }: Form) => ({ unit: 2.6 * sizes.bead, stroke: 2 * sizes.bead });
const stride = ({ body }: Form): number => body.width + BETWEEN;

function footprint(form: Form): Box {
  const { width, depth, digits } = form.body;
  const front = Math.max(digits.relief, BEFORE + digits.relief + signTall(signOf(form)));
  return { minX: 0, minY: -front, maxX: stride(form) + width, maxY: depth };
}

const boxOf = (form: Form, column: number): Box => {
  const { width, depth, digits } = form.body;
  const x = column * stride(form);
  return { minX: x - 1, maxX: x + width + 1, minY: -digits.relief - 0.5, maxY: depth + 1 };
};

const moved = (region: Region, x: number): Region =>
  region.map((ring) => ring.map((point) => ({ ...point, x: point.x + x })));

function layersOf(
  form: Form,
  walls: number,
  labels: readonly string[],
  marks: readonly string[],
): Layer[] {
  const { body, sizes } = form;
  const sign = signOf(form);
  const signs = marks.flatMap((text, column) => {
    const wide = textWidth(text) * sign.unit + sign.stroke;
    const x = column * stride(form) + (body.width - wide) / 2;
    return signAt(text, x, footprint(form).minY, sign);
  });
  const feet = [0, 1].flatMap((column) => moved(footOf(body), column * stride(form)));
  return stackParts(
    sizes,
    labels.length,
    (index) => ({ outline: index === 0 ? [...feet, ...signs] : feet, solid: [], walls }),
    (row, within) => {
      const both = [0, 1].map((column): Part => ({
        rung: 2 * row + column,
        outline: moved(bodyAt(body, sizes, labels[row]!, within), column * stride(form)),
        solid: [],
        walls,
      }));
      // To the right and back again: the shaper changes once a layer.
      return within % 2 === 0 ? both : both.reverse();
    },
  );
}

const kind = towerKind<Spec>({
  id: 'shaper-check',
  title: 'Shaper check',
  finds: ['acceleration'],
  spec: schemaOf(fields) as unknown as LadderKind<Spec>['spec'],
  fields,
  sentence:
    'Climb from {from} mm/s² at the bottom to {to} mm/s² at the top in steps of {step} mm/s², {growing}; each rung twice: ' +
    'without a shaper at the left, with one of {frequency} Hz at the right. Faces of {side} mm at {speed} mm/s.',
  reason: () =>
    'Echoes that the shaper takes away are seen beside those that were there. Without a measured frequency, a guess shows ' +
    'whether the machine obeys.',
  unfit: (bench) =>
    (shaperWay(bench.machine.dialect) === 'none' ? needsCommand('shaper', bench) : null) ??
    acceleration.unfit?.(bench) ??
    null,
  standsOn: ['advance'],
  onDemand: true,
  defaults(bench) {
    const { axes: _, ...usual } = acceleration.defaults(bench);
    const { dialect } = bench.machine;
    const [x, y] = AXIS_NAMES.map(
      (axis) =>
        shapingIn(dialect, axis, bench.tuned ?? {}) ?? {
          type: kindsTaken(dialect, axis)[0]!,
          hz: USUAL_HZ,
          damping: 0.1,
        },
    ) as [Shaping, Shaping];
    return { ...usual, ...shaperInputs(x, y) };
  },
  check: (spec, bench) => [
    ...wholeSteps(spec, 'mm/s²'),
    ...inBounds(
      'acceleration',
      spec,
      { min: 100, max: slowestAxis(bench) },
      `an axis of ${bench.machine.name} has ${short(slowestAxis(bench))} mm/s²`,
    ),
    ...notTaken(spec, bench),
  ],
  axes: (spec, bench) => [axisOf('acceleration', climb(spec), 'z'), shaperAxis(spec, bench)],
  tower(spec, bench) {
    const labels = labelsOf('acceleration', spec);
    const form = formOf({ ...spec, axes: 0 }, bench.nozzle.diameter, labels);
    return {
      spec,
      sizes: form.sizes,
      layers: () =>
        layersOf(
          form,
          spec.walls,
          labels,
          steps(spec).map((one) => String(Math.round(one))),
        ),
      footprint: footprint(form),
      digits: form.body.digits,
      held: calm(spec, bench),
      // A slowed layer would ring less for that reason alone.
      shortestLayer: 0,
      rung: ([, column]) => ({ boxes: [boxOf(form, column!)] }),
    };
  },
  bounds: (bench) => ({ acceleration: { min: 100, max: slowestAxis(bench) } }),
  moved: (spec, { acceleration: range }) => ({ ...spec, ...range }),
  criteria: [
    { name: 'ringing', weight: 1, where: 'rear face for x, right face for y, after the corner' },
  ],
  rule: { kind: 'limits', of: 'acceleration', over: 'shaper', end: 'most', takes: 'last' },
  carry: carryByCommand,
  otherCause:
    'Echoes that a shaper does not lessen are not at its frequency: measure it, by the echoes or with an accelerometer.',
});

/** A kind of shaper that the machine has no word for cannot be printed with. */
function notTaken(spec: Spec, { machine: { dialect, name } }: Bench): Warning[] {
  const axes = shaperWay(dialect) === 'axes' ? AXIS_NAMES : (['x'] as const);
  return axes.flatMap((axis) => {
    const taken = kindsTaken(dialect, axis);
    const { type } = shapingOf(spec, axis);
    if (taken.includes(type)) return [];
    return warn(
      'stop',
      'not-taken',
      axis === 'x' ? 'type' : 'typeY',
      `${name} does not take ${type}.`,
      `Choose ${taken.join(', ')}, or add its word to the machine’s command.`,
    );
  });
}

export const shaperCheck = fitting(kind, (usual) => [
  { ...usual, brim: 0 },
  { ...usual, brim: 0, side: Math.min(usual.side, 24) },
]);
