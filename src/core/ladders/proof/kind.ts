/**
 * Proof: the same part twice, with the values before and with those after, and nobody knows which is which until both
 * are scored.
 */

import type { Bench } from '../../bench/bench';
import { isCommanded, settingInfo, valueLine } from '../../bench/settings';
import { waitsForButton } from '../../dialect/dialect';
import { beadArea } from '../../deposit/bead';
import { beadWidthOf, layerHeightOf, surelyMelted } from '../../deposit/conditions';
import type { Layout } from '../../deposit/layout';
import type { Step } from '../../deposit/step';
import { short, tidy } from '../../numbers';
import { valuesInWords } from '../../plan/axes';
import type { Axis } from '../../plan/plan';
import { carryBySlicing, carryByCommand } from '../commands';
import { choice, OVERHANG_FIELD, PLACE_FIELDS, PLACED, schemaOf, TOWER_FIELDS } from '../fields';
import { fitting } from '../fitting';
import { warn } from '../guards';
import { narrowestSpan } from '../temperature/form';
import { wideEnough } from '../temperature/kind';
import { towerKind } from '../tower-kind';
import type { Field, LadderKind, Warning } from '../types';
import { boxesOf, footprint, formOf, layersOf, MARKS, type ProofSpec } from './form';
import {
  ABSENT,
  differing,
  keyOf,
  orderOf,
  ownOf,
  PROVEN,
  SET_FIELDS,
  standsOver,
  SWAPS,
  tooLow,
  usualSets,
} from './sets';

type Spec = Record<string, number> &
  ProofSpec & {
    speed: number;
    swap: number;
    seed: number;
    brim: number;
    skirtLoops: number;
    shiftX: number;
    shiftY: number;
  };

/** Layers of a part: as many as show its parts. */
const LAYERS = 40;
const [BODY, DEPTH, SPAN, LEAN] = [24, 18, 18, 55];
/** Where a bed has no room for two of those beside each other. */
const SMALL = { body: 12, depth: 12, span: 14 };
/** Outer walls are laid slower than what is inside: corners at full speed bulge whatever is set. */
const OUTSIDE = 0.6;
/** How far the head rises while somebody changes something, mm. */
const CLEAR = 20;
/** How long a machine waits that knows no button, s. */
const WAITS = 300;

const fields: Record<string, Field> = {
  swap: choice('Changed by hand between the two', SWAPS),
  ...TOWER_FIELDS,
  body: { label: 'Width of the body', unit: 'mm', min: 8, max: 80, step: 1, folded: true },
  depth: { label: 'Depth', unit: 'mm', min: 8, max: 80, step: 1, folded: true },
  span: { label: 'Bridge, free length', unit: 'mm', min: 8, max: 60, step: 1, folded: true },
  overhangDeg: OVERHANG_FIELD,
  seed: {
    label: 'Draw of A and B',
    unit: '',
    min: 1,
    max: 1e9,
    step: 1,
    whole: true,
    folded: true,
  },
  ...SET_FIELDS,
  ...PLACE_FIELDS,
};

function defaults(bench: Bench): Spec {
  const { machine, nozzle } = bench;
  const layerHeight = layerHeightOf(nozzle.diameter);
  const bead = beadArea(beadWidthOf(nozzle.diameter), layerHeight);
  return {
    layerHeight,
    rungHeight: tidy(layerHeight * LAYERS),
    walls: 2,
    speed: Math.max(
      5,
      Math.floor(OUTSIDE * Math.min(machine.speeds.print, surelyMelted(bead, bench))),
    ),
    body: BODY,
    depth: DEPTH,
    span: Math.max(SPAN, Math.ceil(narrowestSpan(nozzle.diameter))),
    overhangDeg: LEAN,
    swap: 0,
    seed: 1,
    brim: 0,
    ...PLACED,
    ...usualSets(bench),
  };
}

function check(spec: Spec, bench: Bench): Warning[] {
  const settings = differing(spec);
  const untold = settings.filter(
    (setting) => isCommanded(setting) && valueLine(setting, 1, bench) === null,
  );
  return [
    ...(settings.length === 0 && spec.swap === 0
      ? [
          warn(
            'note' as const,
            'sets-alike',
            'swap',
            'Both parts have the same values: nothing can be told apart.',
            'Print it once values have been found, or say what is changed by hand.',
          ),
        ]
      : []),
    ...(spec.swap > 0
      ? [
          warn(
            'note' as const,
            'known-to-one',
            'swap',
            'Whoever changes it knows which is which: A comes first.',
            'Let somebody else score it.',
          ),
        ]
      : []),
    ...(spec.swap > 0 && !waitsForButton(bench.machine.dialect)
      ? [
          warn(
            'note' as const,
            'waits-for-a-time',
            'swap',
            `${bench.machine.name} waits for no button: it waits for ${WAITS / 60} minutes between the two.`,
            'Have the change ready, or pause the print by hand.',
          ),
        ]
      : []),
    ...untold.map((setting) =>
      warn(
        'stop',
        'no-command',
        keyOf('after', setting),
        `${bench.machine.name} has no command for ${valuesInWords({ [setting]: spec[keyOf('after', setting)]! })}.`,
        'Give it the same value before and after, or fill in its row among the machine’s commands.',
      ),
    ),
    ...tooLow(spec).map(({ key, setting, least }) => {
      const { title, unit } = settingInfo(setting);
      return warn(
        'stop',
        'out-of-bounds',
        key,
        `${short(spec[key]!)} ${unit} of ${title} was asked for; it begins at ${short(least)}.`,
        `Enter ${short(least)} ${unit} or more; ${ABSENT} stands for a setting that the machine does not have.`,
      );
    }),
    ...heat(spec, bench),
    ...wideEnough(spec, bench),
  ];
}

function heat(spec: Spec, { machine }: Bench): Warning[] {
  const hottest = Math.max(spec.beforeNozzle ?? 0, spec.afterNozzle ?? 0);
  if (hottest <= machine.extruder.hottest) return [];
  return [
    warn(
      'stop',
      'above-hot-end',
      spec.afterNozzle === hottest ? 'afterNozzle' : 'beforeNozzle',
      `${short(hottest)} °C was asked for; the hot end of ${machine.name} is rated for ${machine.extruder.hottest} °C.`,
      `Stay at or below ${machine.extruder.hottest} °C.`,
    ),
  ];
}

const axisOf = (spec: Spec): Axis => ({
  setting: null,
  title: 'part',
  unit: '',
  along: standsOver(spec) ? 'z' : 'x',
  steps: orderOf(spec).map((side, i) => ({ label: MARKS[i]!, set: ownOf(spec, side) })),
});

const kind = towerKind<Spec>({
  id: 'proof',
  title: 'Proof',
  finds: ['retraction', ...PROVEN.filter((setting) => setting !== 'retraction')],
  spec: schemaOf(fields) as unknown as LadderKind<Spec>['spec'],
  fields,
  sentence:
    'The same part twice, {rungHeight} mm tall, with the values before and with those after; walls at {speed} mm/s. ' +
    'By hand, between the two, {swap} is changed.',
  reason: () =>
    'Chance decides which is A and which is B; you are told once both are scored, so that nobody sees what they hope for.',
  decides:
    'The same part with the values before and after, scored without knowing which is which: it tells whether tuning helped.',
  standsOn: [],
  defaults,
  check,
  axes: (spec) => [axisOf(spec)],
  tower(spec, bench) {
    const over = standsOver(spec);
    const form = formOf(spec, bench.nozzle.diameter, over);
    const [first] = orderOf(spec);
    const nozzle = ownOf(spec, first).nozzle;
    return {
      spec,
      sizes: form.dims,
      layers: () => layersOf(form),
      footprint: footprint(form),
      digits: form.dims.digits,
      ...(nozzle === undefined ? {} : { nozzle }),
      rung: ([at]) => ({ boxes: boxesOf(form, over ? 0 : at!) }),
    };
  },
  bounds: () => ({}),
  moved: (spec) => spec,
  criteria: [
    { name: 'corners', weight: 0.8, where: 'the front corners of the right body', box: 3 },
    { name: 'stringing', weight: 0.8, where: 'between post and bodies' },
    { name: 'bridging', weight: 0.6, where: 'the deck seen from below', box: 1 },
    { name: 'overhang', weight: 0.6, where: 'under the prow at the right', box: 2 },
    { name: 'surface', weight: 0.6, where: 'front and rear faces' },
    { name: 'gaps', weight: 0.6, where: 'the deck seen from above', box: 1 },
    { name: 'seam', weight: 0.4, where: 'the edge where layers start' },
    { name: 'ringing', weight: 0.4, where: 'the faces beside each corner' },
  ],
  rule: { kind: 'proof' },
  carry: (setting, value, bench) =>
    valueLine(setting, value, bench) === null
      ? carryBySlicing(setting, value, bench)
      : carryByCommand(setting, value, bench),
  otherCause:
    'Where nothing differs to the eye, what was changed does not show on a part like this: keep either.',
});

/** Between the two somebody changes something: the head waits aside, drawn back and out of the way. */
function waiting(layout: Layout, spec: Spec): Layout {
  if (spec.swap === 0) return layout;
  const prime = layout.steps.find((step) => step.do === 'stroke' && step.role === 'prime');
  const begins = layout.steps.findIndex((step) => step.do === 'rung' && step.index === 1);
  // Before the layer that the second begins with: what is drawn back on the way is still the first one's.
  const at = layout.steps.slice(0, begins).findLastIndex((step) => step.do === 'layer');
  if (prime?.do !== 'stroke' || at === -1) return layout;
  const what = SWAPS[spec.swap]!;
  const wait: Step[] = [
    { do: 'draw' },
    { do: 'travel', to: prime.path[0]!, retract: true, over: layout.height + CLEAR },
    { do: 'raise', z: tidy(layout.height + CLEAR) },
    { do: 'pause', text: `A is done. Change ${what}, then go on.`, seconds: WAITS },
  ];
  return { ...layout, steps: [...layout.steps.slice(0, at), ...wait, ...layout.steps.slice(at)] };
}

export const proof = fitting(
  { ...kind, lay: (spec, bench, memory) => waiting(kind.lay(spec, bench, memory), spec) },
  (usual) => [
    { ...usual, ...SMALL },
    { ...usual, ...SMALL, span: usual.span },
  ],
);
