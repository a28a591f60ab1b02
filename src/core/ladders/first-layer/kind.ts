/**
 * First layer: filled patches, each a step nearer to the bed. The offset is written into the moves. The nozzle
 * starts high and comes down rung by rung, and crosses what it has laid well above it.
 */

import type { Box } from '../../bench/bed';
import { bedBox } from '../../bench/bed';
import type { Bench } from '../../bench/bench';
import type { Bed } from '../../bench/machine';
import { beadPitch } from '../../deposit/bead';
import { beadWidthOf, layerHeightOf } from '../../deposit/conditions';
import { short } from '../../numbers';
import { climb } from '../climb';
import { labelsOf, movedTo } from '../climbing';
import { inBounds } from '../commands';
import { choice, FLAT_FIELDS, PLACED, rangeFields, schemaOf } from '../fields';
import { warn, wholeSteps } from '../guards';
import { filled, flatText, signHeight, signWidth, type Sheet, type SheetRung } from '../sheet';
import { sheetKind } from '../sheet-kind';
import type { Warning } from '../types';

/** The true gap is never under this share of the layer, or the nozzle digs into the bed. */
const LEAST_GAP = 0.4;
/** Height, mm, at which the head crosses patches. */
const OVER = 3;
const PATCH_GAP = 3;
/** Free rim, mm, around groups of patches at the corners of a bed. */
const CORNER_RIM = 12;
const ENDS: [number, number] = [-0.5, 0.5];
const BOUNDS = { min: -0.3, max: 0.3 };

const fields = {
  ...rangeFields('zOffset', ENDS, 0.01, ['First, highest', 'Last, lowest']),
  touch: { label: 'Touches the bed at', unit: 'mm', min: -2, max: 0.5, step: 0.01 },
  places: choice('Places', ['the middle', 'the middle and four corners', 'the whole bed']),
  size: { label: 'Side of a patch', unit: 'mm', min: 8, max: 40, step: 1 },
  ...FLAT_FIELDS,
};
type Spec = { [K in keyof typeof fields]: number };

/** Middles of the groups about the middle of the bed, the middle first; as far out as they fit. */
function middles(places: number, bed: Bed, group: { wide: number; tall: number }) {
  if (places === 0) return [{ x: 0, y: 0 }];
  const { minX, maxX, minY, maxY } = bedBox(bed);
  const round = bed.shape === 'round' ? Math.SQRT1_2 : 1;
  const x = Math.max(0, (round * (maxX - minX) - group.wide) / 2 - CORNER_RIM);
  const y = Math.max(0, (round * (maxY - minY) - group.tall) / 2 - CORNER_RIM);
  const all =
    places === 1
      ? [-1, 1].flatMap((sx) => [-1, 1].map((sy) => [sx, sy]))
      : [-1, 0, 1]
          .flatMap((sx) => [-1, 0, 1].map((sy) => [sx, sy]))
          .filter(([sx, sy]) => sx !== 0 || sy !== 0);
  return [{ x: 0, y: 0 }, ...all.map(([sx, sy]) => ({ x: sx! * x, y: sy! * y }))];
}

function sheetOf(spec: Spec, bench: Bench): Sheet {
  const bead = Math.max(beadWidthOf(bench.nozzle.diameter), spec.layerHeight);
  const pitch = beadPitch(bead, spec.layerHeight);
  const values = climb(spec);
  const texts = labelsOf(spec);
  const wide = spec.size + 2 + Math.max(...texts.map((text) => signWidth(text, bead)));
  const stride = Math.max(spec.size, signHeight(bead)) + PATCH_GAP;
  const tall = values.length * stride - PATCH_GAP;
  const groups = middles(spec.places, bench.machine.bed, { wide, tall });
  const corner = ({ x, y }: { x: number; y: number }, i: number) => ({
    x: x - wide / 2,
    y: y - tall / 2 + i * stride,
  });
  const rungs = values.map((zOffset, i): SheetRung => {
    const boxes = groups.map((group): Box => {
      const { x, y } = corner(group, i);
      return { minX: x, minY: y, maxX: x + spec.size, maxY: y + spec.size };
    });
    return {
      set: { zOffset },
      lines: [boxes.flatMap((box) => filled(box, bead, pitch, Math.PI / 4))],
      boxes,
    };
  });
  const marks = groups.flatMap((group) =>
    texts.flatMap((text, i) => {
      const { x, y } = corner(group, i);
      const up = (spec.size - signHeight(bead)) / 2;
      return flatText(text, x + spec.size + 2, y + Math.max(0, up), bead);
    }),
  );
  const xs = groups.map(({ x }) => x);
  const ys = groups.map(({ y }) => y);
  return {
    spec,
    box: {
      minX: Math.min(...xs) - wide / 2,
      maxX: Math.max(...xs) + wide / 2,
      minY: Math.min(...ys) - tall / 2,
      maxY: Math.max(...ys) + tall / 2,
    },
    marks,
    rungs,
    // Highest first, so that no later patch is lower than where the head has been.
    order: values.map((_, i) => i).sort((a, b) => values[b]! - values[a]!),
    from: { zOffset: Math.max(...values) },
    over: OVER,
  };
}

/** Guards against a nozzle in the bed. The true gap is what lies between nozzle and bed. */
function clearance(spec: Spec): Warning[] {
  const lowest = Math.min(spec.from, spec.to);
  const gap = lowest - spec.touch;
  const least = LEAST_GAP * spec.layerHeight;
  if (gap >= least - 1e-9) return [];
  const floor = Math.ceil((spec.touch + least) * 100 - 1e-6) / 100;
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

export const firstLayer = sheetKind<Spec>({
  id: 'first-layer',
  title: 'First layer',
  setting: 'zOffset',
  spec: schemaOf(fields),
  fields,
  sentence:
    'From {from} mm, highest, down to {to} mm in steps of {step} mm; patches of {size} mm in {places}. The nozzle ' +
    'touches the bed at {touch} mm.',
  reason: ({ nozzle }) =>
    `The layer is half as thick as the ${short(nozzle.diameter)} mm nozzle is wide. Highest first, so that the nozzle only ever comes down to plastic that is not there yet.`,
  standsOn: [],
  defaults(bench) {
    const layerHeight = layerHeightOf(bench.nozzle.diameter);
    const spec: Spec = {
      from: 0.1,
      to: -0.1,
      step: 0.05,
      touch: -layerHeight,
      places: 0,
      size: 18,
      layerHeight,
      ...PLACED,
    };
    // A thin layer has less room below it.
    const lowest = Math.ceil((spec.touch + LEAST_GAP * layerHeight) / 0.05 - 1e-6) * 0.05;
    return { ...spec, to: Math.max(spec.to, Number(lowest.toFixed(2))) };
  },
  check: (spec) => [
    ...wholeSteps(spec, 'mm'),
    ...inBounds('zOffset', spec, BOUNDS, 'further off, the bed itself wants levelling'),
    ...clearance(spec),
  ],
  sheet: sheetOf,
  bounds: ({ nozzle }) => {
    const layer = layerHeightOf(nozzle.diameter);
    return { min: Math.max(BOUNDS.min, -(1 - LEAST_GAP) * layer), max: BOUNDS.max };
  },
  moved: movedTo,
  criteria: [
    { name: 'gaps', weight: 1, where: 'between the lines of a patch, held against light' },
    { name: 'ridges', weight: 0.9, where: 'the top of a patch under a finger' },
  ],
  rule: { kind: 'best', saferSide: 'higher' },
  carry: (value, { machine }) => ({
    lines: [],
    say:
      value === 0
        ? `The z offset of ${machine.name} stays as it is.`
        : `Add ${value > 0 ? '+' : ''}${short(value)} mm to the z offset of ${machine.name} and store it: ${value > 0 ? 'the nozzle starts higher' : 'the nozzle starts lower'}.`,
  }),
  otherCause:
    'Patches that are alike at every height usually do not stick for another reason: wipe the bed, and look at its ' +
    'temperature.',
});
