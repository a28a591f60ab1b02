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
import { isCommanded, settingInfo, valueLine } from '../../bench/settings';
import type { Layer, Part } from '../../deposit/layer';
import type { Layout } from '../../deposit/layout';
import { short } from '../../numbers';
import { axisOf } from '../../plan/axes';
import { textWidth } from '../../shape/digits';
import type { Region } from '../../shape/region';
import { signAt, signTall } from '../../shape/sign';
import { bodyAt } from '../body';
import { climb, type Range } from '../climb';
import { labelsOf } from '../climbing';
import { carryByCommand, inBounds, needsCommand } from '../commands';
import { rangeFields, schemaOf, TOWER_FIELDS } from '../fields';
import { fitting } from '../fitting';
import { wholeSteps } from '../guards';
import { stackParts } from '../tower';
import { towerKind } from '../tower-kind';
import type { Field, LadderKind } from '../types';
import { footOf, formOf, type Form } from './form';
import { calm, drive, slowestAxis } from './kind';

type Spec = Range & {
  frequency: number;
  present: number;
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
const fields: Record<string, Field> = {
  ...rangeFields('acceleration', [50, 100_000], settingInfo('acceleration').resolution),
  growing: acceleration.fields.growing!,
  frequency: { ...hertz('Frequency of the shaper'), min: 5 },
  present: { ...hertz('Shaper that the machine has now'), folded: true },
  side: { label: 'Length of a face', unit: 'mm', min: 20, max: 200, step: 5 },
  ...TOWER_FIELDS,
};

const steps = (spec: Spec): [number, number] => [0, spec.frequency];
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
  unfit: (bench) => needsCommand('shaper', bench) ?? acceleration.unfit?.(bench) ?? null,
  standsOn: ['advance'],
  onDemand: true,
  defaults(bench) {
    const { axes: _, ...usual } = acceleration.defaults(bench);
    const frequency = bench.tuned?.shaper ?? USUAL_HZ;
    return { ...usual, frequency, present: bench.tuned?.shaper ?? 0 };
  },
  check: (spec, bench) => [
    ...wholeSteps(spec, 'mm/s²'),
    ...inBounds(
      'acceleration',
      spec,
      { min: 100, max: slowestAxis(bench) },
      `an axis of ${bench.machine.name} has ${short(slowestAxis(bench))} mm/s²`,
    ),
  ],
  axes: (spec) => [axisOf('acceleration', climb(spec), 'z'), axisOf('shaper', steps(spec), 'x')],
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

/** At the end the machine has the shaper again that it had. */
function restored(layout: Layout, { present }: Spec, bench: Bench): Layout {
  if (!isCommanded('shaper') || valueLine('shaper', present, bench) === null) return layout;
  return { ...layout, steps: [...layout.steps, { do: 'set', set: { shaper: present } }] };
}

export const shaperCheck = fitting(
  { ...kind, lay: (spec, bench, memory) => restored(kind.lay(spec, bench, memory), spec, bench) },
  (usual) => [
    { ...usual, brim: 0 },
    { ...usual, brim: 0, side: Math.min(usual.side, 24) },
  ],
);
