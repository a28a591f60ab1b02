/**
 * First layer: filled patches, each a step nearer to the bed. The offset is written into the moves. The nozzle
 * starts high and comes down rung by rung, and crosses what it has laid well above it.
 */

import type { Box } from '../../bench/bed';
import type { Bench } from '../../bench/bench';
import { beadPitch } from '../../deposit/bead';
import { beadWidthOf, layerHeightOf } from '../../deposit/conditions';
import { short, signed, STEP_SLACK, tidy, TYPED_SLACK } from '../../numbers';
import { climb } from '../climb';
import { labelsOf, movedTo, rearward } from '../climbing';
import { inBounds } from '../commands';
import { choice, FLAT_FIELDS, PLACED, rangeFields, schemaOf } from '../fields';
import { warn, wholeSteps } from '../guards';
import {
  filled,
  flatText,
  patternChecks,
  signHeight,
  signWidth,
  type FlatPattern,
  type PatternRung,
} from '../flat-pattern';
import { patternKind } from '../flat-pattern-kind';
import type { Offer, Warning } from '../types';
import { boxOfGroup, cornerOf, groupsOf, PLACES, type Cell } from './places';

/** The true gap is never under this share of the layer, or the nozzle digs into the bed. */
const LEAST_GAP = 0.4;
/** Height, mm, at which the head crosses patches. */
const OVER = 3;
/**
 * Between a patch and its label, mm: an arrow stands there that points from the one to the other, as a rung of a tower
 * does. How far it stands from the patch, which must not touch it, and how deep it is.
 */
const [LABEL_GAP, ARROW_AT, ARROW] = [4, 1.2, 1.8];
const SMALLEST = 6;
/** Steps by default, mm: the finest whose patches have room. A hundredth more or less is seen. */
const STEPS = [0.02, 0.025, 0.05];
/** Marks hold whatever the bed is like, when they get half more than a bead needs. */
const MARK_PLASTIC = 1.5;
const ENDS: [number, number] = [-0.5, 0.5];
const BOUNDS = { min: -0.3, max: 0.3 };

const fields = {
  ...rangeFields('zOffset', ENDS, 0.01, ['First, highest', 'Last, lowest']),
  touch: { label: 'Nozzle touches the bed at', unit: 'mm', min: -2, max: 0.5, step: 0.01 },
  places: choice('Places', PLACES),
  size: { label: 'Side of a patch', unit: 'mm', min: SMALLEST, max: 40, step: 1 },
  ...FLAT_FIELDS,
};
type Spec = { [K in keyof typeof fields]: number };

/** Room of a patch with its label, mm. */
function cellOf(spec: Spec, bench: Bench): Cell {
  const bead = beadOf(spec, bench);
  const labels = labelsOf('zOffset', spec).map((text) => signWidth(text, bead));
  return {
    wide: spec.size + LABEL_GAP + Math.max(...labels),
    tall: Math.max(spec.size, signHeight(bead)),
  };
}

const beadOf = ({ layerHeight }: Spec, { nozzle }: Bench): number =>
  Math.max(beadWidthOf(nozzle.diameter), layerHeight);

function patternOf(spec: Spec, bench: Bench): Omit<FlatPattern, 'axes'> {
  const bead = beadOf(spec, bench);
  const pitch = beadPitch(bead, spec.layerHeight);
  const values = climb(spec);
  const texts = labelsOf('zOffset', spec);
  const cell = cellOf(spec, bench);
  const count = values.length;
  const { groups } = groupsOf(spec.places, bench.machine.bed, cell, count);
  const rungs = values.map((_, i): PatternRung => {
    const boxes = groups.map((group): Box => {
      const { x, y } = cornerOf(group, cell, count, i);
      return { minX: x, minY: y, maxX: x + spec.size, maxY: y + spec.size };
    });
    return {
      lines: [boxes.flatMap((box) => filled(box, bead, pitch, Math.PI / 4))],
      boxes,
    };
  });
  const marks = groups.flatMap((group) =>
    texts.flatMap((text, i) => {
      const { x, y } = cornerOf(group, cell, count, i);
      const up = (spec.size - signHeight(bead)) / 2;
      const sign = flatText(text, x + spec.size + LABEL_GAP, y + Math.max(0, up), bead);
      const tail = x + spec.size + ARROW_AT;
      const arrow = {
        path: [
          { x: tail, y: y + bead },
          { x: tail + ARROW, y: y + spec.size / 2 },
          { x: tail, y: y + spec.size - bead },
        ],
      };
      return [arrow, ...sign].map((line) => ({ ...line, plastic: MARK_PLASTIC }));
    }),
  );
  const all = groups.map((group) => boxOfGroup(group, cell, count));
  return {
    spec,
    box: {
      minX: Math.min(...all.map(({ minX }) => minX)),
      maxX: Math.max(...all.map(({ maxX }) => maxX)),
      minY: Math.min(...all.map(({ minY }) => minY)),
      maxY: Math.max(...all.map(({ maxY }) => maxY)),
    },
    marks,
    rungs,
    // Highest first, so that no later patch is lower than where the head has been.
    order: values.map((_, i) => i).sort((a, b) => values[b]! - values[a]!),
    // Before any value is tested, all is laid in the middle of them.
    from: { zOffset: tidy((Math.min(...values) + Math.max(...values)) / 2) },
    over: OVER,
  };
}

const isApart = (spec: Spec, bench: Bench): boolean =>
  groupsOf(spec.places, bench.machine.bed, cellOf(spec, bench), climb(spec).length).apart;

const isOffBed = (spec: Spec, bench: Bench): boolean =>
  patternChecks(patternOf(spec, bench), bench).some(({ code }) => code === 'off-bed');

/** Patches that lay over each other would be scraped by the lower ones. */
function crowded(spec: Spec, bench: Bench): Warning[] {
  const count = climb(spec).length;
  const fits = (patch: Partial<Spec>): boolean => {
    const one = { ...spec, ...patch };
    return isApart(one, bench) && !isOffBed(one, bench);
  };
  if (fits({})) return [];
  let size = Math.ceil(spec.size) - 1;
  while (size >= SMALLEST && !fits({ size })) size--;
  const step = STEPS.at(-1)!;
  const offers: Offer[] = [
    ...(step > spec.step && wholeSteps({ ...spec, step }, 'mm').length === 0 && fits({ step })
      ? [{ label: `Steps of ${short(step)} mm`, patch: { step } }]
      : []),
    ...(size >= SMALLEST ? [{ label: `Patches of ${size} mm`, patch: { size } }] : []),
    ...(spec.places > 1 && fits({ places: 1 })
      ? [{ label: 'Middle and corners', patch: { places: 1 } }]
      : []),
    ...(spec.places > 0 && fits({ places: 0 })
      ? [{ label: 'The middle alone', patch: { places: 0 } }]
      : []),
  ];
  if (offers.length === 0 && fits({ places: 0, step }))
    offers.push({
      label: `The middle alone, in steps of ${short(step)} mm`,
      patch: { places: 0, step },
    });
  return [
    {
      ...warn(
        'stop',
        'crowded',
        'places',
        isApart(spec, bench)
          ? `${count} patches of ${short(spec.size)} mm have no room on this bed.`
          : `${count} patches of ${short(spec.size)} mm at each place would lie over each other on this bed.`,
        'Choose smaller patches, fewer of them, or fewer places.',
      ),
      offers,
    },
  ];
}

/** Guards against a nozzle in the bed. The true gap is what lies between nozzle and bed. */
function clearance(spec: Spec): Warning[] {
  const lowest = Math.min(spec.from, spec.to);
  const gap = lowest - spec.touch;
  const least = LEAST_GAP * spec.layerHeight;
  if (gap >= least - TYPED_SLACK) return [];
  const floor = Math.ceil((spec.touch + least) * 100 - STEP_SLACK) / 100;
  return [
    {
      ...warn(
        'stop',
        'digs-in',
        'to',
        `At ${short(lowest)} mm the nozzle would be ${short(Math.max(0, gap), 2)} mm over where it touches the bed; at least ${short(least, 2)} mm must be left.`,
        `Stay at or above ${short(floor, 2)} mm, or correct where it touches.`,
      ),
    },
  ];
}

function usualSpec(step: number, layerHeight: number): Spec {
  const touch = -layerHeight;
  // A thin layer has less room below it.
  const lowest = Math.ceil((touch + LEAST_GAP * layerHeight) / step - STEP_SLACK) * step;
  return {
    from: 0.1,
    to: Math.max(-0.1, tidy(lowest)),
    step,
    touch,
    places: 0,
    size: 12,
    layerHeight,
    ...PLACED,
  };
}

export const firstLayer = patternKind<Spec>({
  id: 'first-layer',
  title: 'First layer',
  finds: ['zOffset'],
  spec: schemaOf(fields),
  fields,
  sentence:
    'From {from} mm, highest, down to {to} mm in steps of {step} mm; patches of {size} mm in {places}. The nozzle ' +
    'touches the bed at {touch} mm.',
  reason: ({ nozzle }) =>
    `The layer is half as thick as the ${short(nozzle.diameter)} mm nozzle is wide. Highest first, so that the nozzle never comes down on plastic that is already there.`,
  standsOn: [],
  defaults(bench) {
    const usual = (step: number): Spec => usualSpec(step, layerHeightOf(bench.nozzle.diameter));
    const fits = (spec: Spec) => patternChecks(patternOf(spec, bench), bench).length === 0;
    return STEPS.map(usual).find(fits) ?? usual(STEPS.at(-1)!);
  },
  check: (spec, bench) => [
    ...wholeSteps(spec, 'mm'),
    ...inBounds('zOffset', spec, BOUNDS, 'further off, the bed itself wants levelling'),
    ...clearance(spec),
    ...crowded(spec, bench),
  ],
  axes: (spec) => rearward('zOffset', spec),
  pattern: patternOf,
  bounds: ({ nozzle }) => {
    const layer = layerHeightOf(nozzle.diameter);
    return {
      zOffset: { min: Math.max(BOUNDS.min, -(1 - LEAST_GAP) * layer), max: BOUNDS.max },
    };
  },
  moved: movedTo('zOffset'),
  criteria: [
    { name: 'gaps', weight: 1, where: 'between the lines of a patch, held against light' },
    { name: 'ridges', weight: 0.9, where: 'the top of a patch under a finger' },
  ],
  rule: { kind: 'best', saferSide: 'higher' },
  carry: (_, value, { machine }) => ({
    lines: [],
    say:
      value === 0
        ? `The z offset of ${machine.name} stays as it is.`
        : `Add ${signed(value)} mm to the z offset of ${machine.name} and store it: ${value > 0 ? 'the nozzle starts higher' : 'the nozzle starts lower'}.`,
  }),
  floors({ rungs, spec, layerHeight }) {
    const inOrder = [...rungs].sort((a, b) => a.line - b.line);
    const least = Number(spec.touch) + LEAST_GAP * layerHeight;
    return inOrder.map(({ line }, i) => ({
      line,
      least: tidy(least - Math.min(...inOrder.slice(i).map(({ set }) => set.zOffset!))),
    }));
  },
  otherCause:
    'When patches look the same at every height, something else keeps them from sticking: wipe the bed, and check its ' +
    'temperature.',
});
