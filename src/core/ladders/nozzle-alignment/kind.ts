/**
 * Nozzle alignment: lines of the first nozzle at one pitch, lines of the second at a pitch that is a step wider,
 * end to end. The pair that lines up tells the error, as on a vernier (domain.md §5). One vernier for x, one for y.
 */

import type { Point } from '../../bench/bed';
import type { Bench } from '../../bench/bench';
import { inForce } from '../../bench/in-force';
import { areaOf, beadWidthOf, conditionsOf, layerHeightOf } from '../../deposit/conditions';
import type { Step } from '../../deposit/step';
import { mean, short, signed, snap, tidy } from '../../numbers';
import { axisOf, leadValues } from '../../plan/axes';
import { fail, ok, problem } from '../../result';
import { settingInfo, type Setting } from '../../bench/settings';
import { marksOf } from '../../plan/marks';
import { FLAT_FIELDS, PLACED, schemaOf } from '../fields';
import { warn } from '../guards';
import {
  filled,
  flatText,
  outlineOf,
  signHeight,
  signWidth,
  type Line,
  type FlatPattern,
  type PatternRung,
} from '../flat-pattern';
import { patternKind } from '../flat-pattern-kind';

/** Ends of the two nozzles' lines stand this far apart, mm, so that neither smears the other. */
const SLIT = 0.4;
/** Height, mm, for a change of tool: over everything that stands on the bed. */
const CHANGE_AT = 8;
const OVER = 3;
const PRIME = 14;
const ROOM = 6;

const fields = {
  pairs: {
    label: 'Pairs to each side',
    unit: '',
    min: 2,
    max: 10,
    step: 1,
    whole: true as const,
  },
  step: { label: 'Step', unit: 'mm', min: 0.02, max: 0.5, step: 0.01 },
  length: {
    label: 'Length of a line',
    unit: 'mm',
    min: 4,
    max: 40,
    step: 1,
    folded: true as const,
  },
  ...FLAT_FIELDS,
};
type Spec = { [K in keyof typeof fields]: number };

/** Pairs of lines, the middle one 0. */
const indicesOf = ({ pairs }: Spec): number[] =>
  Array.from({ length: 2 * pairs + 1 }, (_, i) => i - pairs);

/** How far the lines of a pair are apart, mm. */
const valuesOf = (spec: Spec): number[] => indicesOf(spec).map((k) => tidy(k * spec.step));

function dimensionsOf(spec: Spec, bore: number) {
  const bead = Math.max(beadWidthOf(bore), spec.layerHeight);
  const pitch = Math.max(3, 6 * bead, signHeight(bead) * 0.6);
  const reach = spec.pairs * (pitch + spec.step);
  const { texts } = marksOf('offsetX', valuesOf(spec));
  const text = Math.max(...texts.map((one) => signWidth(one, bead)), signHeight(bead)) + 2;
  return { bead, pitch, reach, texts, text, tall: 2 * spec.length + SLIT };
}

function patternOf(spec: Spec, bench: Bench): Omit<FlatPattern, 'axes'> {
  const { bead, pitch, reach, texts, text, tall } = dimensionsOf(spec, bench.nozzle.diameter);
  const { length, step, pairs } = spec;
  // The vernier for x stands in front, the one for y behind it.
  const yMiddle = tall + text + ROOM + reach;
  const xMiddle = reach;
  const line = (a: Point, b: Point): Line => ({ path: [a, b] });
  const indices = indicesOf(spec);
  const second = length + SLIT;
  const forX = (k: number, shift: number, from: number) => {
    const x = xMiddle + k * pitch + shift;
    return line({ x, y: from }, { x, y: from + length });
  };
  const forY = (k: number, shift: number, from: number) => {
    const y = yMiddle + k * pitch + shift;
    return line({ x: from, y }, { x: from + length, y });
  };
  const rungs = indices.map((k): PatternRung => {
    const value = tidy(k * step);
    const y = yMiddle + k * pitch;
    const x = xMiddle + k * pitch;
    const half = pitch / 2;
    return {
      lines: [[forX(k, value, second), forY(k, value, second)]],
      boxes: [
        { minX: 0, maxX: tall, minY: y - half, maxY: y + half },
        { minX: x - half, maxX: x + half, minY: 0, maxY: tall },
      ],
    };
  });
  const named = indices.filter((k) => k === 0 || Math.abs(k) === pairs);
  const says = (k: number) => texts[indices.indexOf(k)]!;
  const marks = [
    ...indices.flatMap((k) => [forX(k, 0, 0), forY(k, 0, 0)]),
    ...named.flatMap((k) => [
      ...flatText(says(k), xMiddle + k * pitch - signWidth(says(k), bead) / 2, tall + 2, bead),
      ...flatText(says(k), tall + 2, yMiddle + k * pitch - signHeight(bead) / 2, bead),
    ]),
    ...flatText('X', 2 * reach + ROOM, 0, bead),
    ...flatText('Y', tall + text + ROOM, yMiddle, bead),
  ];
  const prime = {
    minX: 2 * reach + ROOM,
    maxX: 2 * reach + ROOM + PRIME,
    minY: tall - 6,
    maxY: tall,
  };
  return {
    spec,
    box: {
      minX: Math.min(0, xMiddle - reach - signWidth(says(-pairs), bead) / 2),
      minY: 0,
      maxX: Math.max(prime.maxX, tall + text + ROOM + signWidth('Y', bead)),
      maxY: yMiddle + reach + signHeight(bead) / 2,
    },
    marks,
    rungs,
    // It heats while the first nozzle prints, so that it does not wait, and drip, over what is laid.
    before: [{ do: 'warm', nozzle: inForce(bench).nozzle, tool: 1 }],
    between: (aside) => [...change(aside, 1), ...toSecond(prime, spec, bench)],
    after: (aside) => [...change(aside, 0), { do: 'cool', tool: 1 }],
    over: OVER,
  };
}

/** Draws back, rises, goes beside the print and changes there. */
const change = (aside: Point, index: number): Step[] => [
  { do: 'draw' },
  { do: 'raise', z: CHANGE_AT },
  { do: 'travel', to: aside, retract: false },
  { do: 'tool', index },
];

/** Waits for the second nozzle and primes it on a patch of its own. */
function toSecond(
  box: { minX: number; minY: number; maxX: number; maxY: number },
  { layerHeight }: Spec,
  bench: Bench,
): Step[] {
  const conditions = conditionsOf(bench, layerHeight, bench.machine.speeds.firstLayer);
  const area = areaOf('wall', conditions);
  const speed = conditions.speeds.skirt;
  const lay = (path: Point[], i: number): Step[] => [
    i === 0
      ? { do: 'travel', to: path[0]!, retract: true, over: OVER }
      : { do: 'travel', to: path[0]!, retract: false },
    { do: 'stroke', role: 'prime', path, area, speed },
  ];
  return [
    { do: 'heat', nozzle: inForce(bench).nozzle, tool: 1 },
    ...[
      outlineOf(box),
      ...filled(box, conditions.width, conditions.pitch, 0)
        .map(({ path }) => path)
        .slice(1),
    ].flatMap(lay),
  ];
}

export const nozzleAlignment = patternKind<Spec>({
  id: 'nozzle-alignment',
  title: 'Nozzle alignment',
  finds: ['offsetX', 'offsetY'],
  spec: schemaOf(fields),
  fields,
  sentence:
    '{pairs} pairs of lines to each side of the middle, every pair {step} mm further apart.',
  reason: () =>
    'Lines of both nozzles stand end to end; the pair that reads as one line tells how far the second nozzle is off.',
  unfit: ({ machine }) =>
    machine.extruder.tools > 1
      ? null
      : problem(
          'machine',
          `${machine.name} has one nozzle; there is nothing to align.`,
          'Enter two tools for the machine if it has two.',
        ),
  standsOn: ['zOffset'],
  defaults: ({ nozzle }) => ({
    pairs: 5,
    step: 0.1,
    length: 10,
    layerHeight: layerHeightOf(nozzle.diameter),
    ...PLACED,
  }),
  check(spec, bench) {
    const { pitch } = dimensionsOf(spec, bench.nozzle.diameter);
    return [
      ...(spec.pairs * spec.step > pitch / 2
        ? [
            warn(
              'stop',
              'ambiguous',
              'step',
              `At the last pair the second line stands ${short(spec.pairs * spec.step)} mm off, nearer to the next line than to its own.`,
              'Choose fewer pairs or a smaller step.',
            ),
          ]
        : []),
    ];
  },
  axes: (spec) => [axisOf('offsetX', valuesOf(spec), 'y', (offsetY) => ({ offsetY }))],
  pattern: patternOf,
  bounds: () => ({ offsetX: { min: -2, max: 2 }, offsetY: { min: -2, max: 2 } }),
  moved: (spec, { offsetX }) => ({ ...spec, step: offsetX?.step ?? spec.step }),
  criteria: [],
  rule: { kind: 'measured' },
  measures: (['x', 'y'] as const).map((axis) => ({
    key: axis,
    label: axis === 'x' ? 'Pair in x that reads as one line' : 'Pair in y that reads as one line',
    unit: 'mm',
    min: -5,
    max: 5,
    fewest: 1,
    most: 2,
    how: `The middle pair is 0; ${axis === 'x' ? 'to the right' : 'to the rear'} the numbers grow. Two neighbours equally good: choose both.`,
    choices: leadValues,
  })),
  work(measured, { spec }) {
    const step = Number(spec.step);
    const apart = ['x', 'y'].find((axis) => {
      const chosen = measured[axis] ?? [];
      return Math.max(...chosen) - Math.min(...chosen) > 1.5 * step;
    });
    if (apart)
      return fail(
        problem(
          apart,
          `The two pairs chosen in ${apart} are not neighbours.`,
          'Choose one pair, or two side by side.',
        ),
      );
    const one = (setting: Setting, chosen: number[]) => {
      const value = snap(mean(chosen), settingInfo(setting).resolution);
      // The eye takes the nearest pair: the error lies evenly within half a step, 80 % of it within 0.4.
      const half = (chosen.length > 1 ? 0.2 : 0.4) * step;
      return { setting, value, range: [value - half, value + half] as [number, number] };
    };
    const values = [one('offsetX', measured.x ?? []), one('offsetY', measured.y ?? [])];
    const say = (value: number, more: string, less: string) =>
      value === 0 ? 'nothing' : `${short(Math.abs(value))} mm to the ${value > 0 ? more : less}`;
    return ok({
      values,
      reason: `Moved by ${say(values[0]!.value, 'right', 'left')} in x and ${say(values[1]!.value, 'rear', 'front')} in y, the second nozzle prints onto the lines of the first.`,
      also:
        Math.max(...values.map(({ value }) => Math.abs(value))) > (Number(spec.pairs) - 0.5) * step
          ? ['The pair that lines up is the last one: set this offset, and print it once more.']
          : [],
    });
  },
  carry: (_, value, { machine }) => ({
    lines: [],
    say: `Move the second nozzle of ${machine.name} by ${signed(value)} mm: add it to where its lines should land. Firmwares differ in the sign of a tool offset, so print the vernier once more after the change.`,
  }),
  otherCause: 'Print it again.',
});
