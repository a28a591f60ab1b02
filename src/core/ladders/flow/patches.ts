/** Flow by patches: small pads laid with more and more plastic, all but their first layer. */

import type { Bench } from '../../bench/bench';
import { beadPitch } from '../../deposit/bead';
import { beadWidthOf, layerHeightOf } from '../../deposit/conditions';
import { climb } from '../climb';
import { labelsOf, movedTo, rearward } from '../climbing';
import { carryBySlicing, inBounds, standsAt } from '../commands';
import { FLAT_FIELDS, PAD_FIELDS, PLACED, rangeFields, schemaOf } from '../fields';
import { wholeSteps } from '../guards';
import {
  filled,
  flatText,
  signHeight,
  signWidth,
  type FlatPattern,
  type PatternRung,
} from '../flat-pattern';
import { patternKind } from '../flat-pattern-kind';

const BOUNDS = { min: 0.7, max: 1.3 };
/** Height, mm, at which the head crosses pads. */
const OVER = 3;
const GAP = 3;

const fields = {
  ...rangeFields('flow', [0.5, 1.5], 0.01, ['Front', 'Rear']),
  ...PAD_FIELDS,
  ...FLAT_FIELDS,
};
type Spec = { [K in keyof typeof fields]: number };

function patternOf(spec: Spec, bench: Bench): Omit<FlatPattern, 'axes'> {
  const bead = Math.max(beadWidthOf(bench.nozzle.diameter), spec.layerHeight);
  const pitch = beadPitch(bead, spec.layerHeight);
  const values = climb(spec);
  const texts = labelsOf('flow', spec);
  const stride = Math.max(spec.size + GAP, signHeight(bead) + 1);
  const rungs = values.map((_, i): PatternRung => {
    const y = i * stride;
    const box = { minX: 0, minY: y, maxX: spec.size, maxY: y + spec.size };
    const angle = (layer: number) => (layer % 2 === 0 ? 1 : 3) * (Math.PI / 4);
    return {
      lines: Array.from({ length: spec.layers }, (_, layer) =>
        filled(box, bead, pitch, angle(layer)),
      ),
      boxes: [box],
    };
  });
  const wide = Math.max(...texts.map((text) => signWidth(text, bead)));
  return {
    spec,
    box: {
      minX: 0,
      minY: 0,
      maxX: spec.size + 2 + wide,
      maxY: (values.length - 1) * stride + Math.max(spec.size, signHeight(bead)),
    },
    marks: texts.flatMap((text, i) =>
      flatText(
        text,
        spec.size + 2,
        i * stride + Math.max(0, (spec.size - signHeight(bead)) / 2),
        bead,
      ),
    ),
    rungs,
    over: OVER,
  };
}

export const flowPatches = patternKind<Spec>({
  id: 'flow-patches',
  title: 'Flow by patches',
  finds: ['flow'],
  spec: schemaOf(fields),
  fields,
  sentence:
    'Climb from {from} in front to {to} at the rear in steps of {step}; pads of {size} mm laid with that flow from their second layer on.',
  reason: (bench) =>
    `For those without a caliper: the eye judges a closed top. ${standsAt('flow', bench)}`,
  standsOn: ['steps', 'rotation', 'nozzle'],
  defaults(bench) {
    const layerHeight = layerHeightOf(bench.nozzle.diameter);
    const size = 10;
    return { from: 0.9, to: 1.1, step: 0.02, size, layers: 5, layerHeight, ...PLACED };
  },
  check: (spec) => [
    ...wholeSteps(spec, '×'),
    ...inBounds('flow', spec, BOUNDS, 'that far off, the extruder steps are wrong'),
  ],
  axes: (spec) => rearward('flow', spec),
  pattern: patternOf,
  bounds: () => ({ flow: BOUNDS }),
  moved: movedTo('flow'),
  criteria: [
    { name: 'gaps', weight: 1, where: 'between the lines on top' },
    { name: 'ridges', weight: 1, where: 'waves and scraped places on top' },
  ],
  rule: { kind: 'best', saferSide: 'lower' },
  carry: carryBySlicing,
  otherCause:
    'When tops look the same at every flow, the cause is usually a first layer that is too high or too low: print that ladder again.',
});
