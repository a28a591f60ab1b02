/**
 * Extruder steps: no print. The file heats, lifts the nozzle off the bed and feeds a length slowly; what is left
 * of a mark on the filament says how much was really fed.
 */

import { MOST_PUSHED } from '../../gcode/audit';
import { bedCentre } from '../../bench/bed';
import type { Bench } from '../../bench/bench';
import { inForce } from '../../bench/in-force';
import { filamentFor, roundArea } from '../../deposit/bead';
import { layerHeightOf } from '../../deposit/conditions';
import { variablesOf } from '../../dialect/template';
import { mean, short } from '../../numbers';
import { fail, ok, problem, type Result } from '../../result';
import { settingInfo } from '../../bench/settings';
import { carryByCommand } from '../commands';
import { schemaOf } from '../fields';
import { warn } from '../guards';
import { contradiction, spreadOf, within80 } from '../measured';
import type { LadderKind, Worked } from '../types';

/** A mark against a ruler is read this well, mm (one standard deviation). */
const RULER = 0.4;
/** Shares of what was asked for outside which a number is a slip or a fault, not a feeder that is off. */
const LIKELY = [0.6, 1.5] as const;
/** Height, mm, at which filament falls freely. */
const FREE = 50;
/** Plastic, mm³/s, that no hot end holds back. */
const UNHINDERED = 5;
const WAIT = 5;

type Way = {
  id: string;
  title: string;
  setting: 'steps' | 'rotation';
  usual: number;
  ends: [number, number];
  /** New value when `asked` mm were asked for and `fed` mm came. */
  next: (present: number, asked: number, fed: number) => number;
};

const WAYS: Way[] = [
  {
    id: 'extruder-steps',
    title: 'Extruder steps',
    setting: 'steps',
    usual: 100,
    ends: [10, 5000],
    next: (present, asked, fed) => (present * asked) / fed,
  },
  {
    id: 'rotation-distance',
    title: 'Rotation distance',
    setting: 'rotation',
    usual: 7.5,
    ends: [0.5, 100],
    // The distance of a turn is what steps a millimetre are the inverse of.
    next: (present, asked, fed) => (present * fed) / asked,
  },
];

const fieldsFor = ({ setting, ends: [min, max] }: Way) => ({
  present: {
    label: 'Value in the machine now',
    unit: settingInfo(setting).unit,
    min,
    max,
    step: settingInfo(setting).resolution,
  },
  length: { label: 'Length to feed', unit: 'mm', min: 20, max: MOST_PUSHED, step: 10 },
  mark: { label: 'Mark above the extruder', unit: 'mm', min: 30, max: 300, step: 10 },
  speed: { label: 'Feed', unit: 'mm/s', min: 0.2, max: 10, step: 0.1 },
});

/** Which of the two a machine takes, by the variable in its row. */
const takes = ({ setting }: Way, { machine: { dialect } }: Bench): boolean =>
  [dialect.steps, dialect.file.steps].some((row) => variablesOf(row).includes(setting));

/** A length that a ruler tells well, fed slower than a nozzle holds back; mm, and mm/s of filament. */
export function slowly({ filament: { diameter } }: Bench) {
  const slow = Math.floor((UNHINDERED / roundArea(diameter)) * 10) / 10;
  return { length: 100, mark: 120, speed: Math.min(2, slow) };
}

/** What the machine has now, what was asked for, and how far above the extruder the mark was set, mm. */
export type Fed = { present: number; length: number; mark: number };

/**
 * Works out what a machine has to have from what was left of a mark, mm, once or several times. Of the mean, with the
 * range in which it lies in 8 of 10 such cases.
 */
export function workedSteps(
  setting: 'steps' | 'rotation',
  { present, length, mark }: Fed,
  left: readonly number[],
): Result<Worked> {
  const fed = mean(left.map((one) => mark - one));
  const apart = contradiction('left', 'Distance left to the mark:', left, length, 2 * RULER);
  if (apart) return fail(apart);
  const [least, most] = LIKELY;
  if (fed < least * length || fed > most * length)
    return fail(
      problem(
        'left',
        `That means ${short(fed)} mm came out of ${short(length)} mm: no extruder is that far off.`,
        'Measure from the extruder to the mark, in mm. If it is so, look for slipping, and feed it again.',
      ),
    );
  const value = WAYS.find((way) => way.setting === setting)!.next(present, length, fed);
  const half = within80(spreadOf(left, RULER), left.length) * (value / fed);
  const spread = Math.max(...left) - Math.min(...left);
  return ok({
    values: [{ setting, value, range: [value - half, value + half] }],
    reason: `${short(length)} mm were asked for and ${short(fed, 2)} mm came out (${left.length === 1 ? 'once' : `${left.length} times, ${short(spread, 1)} mm apart`}).`,
  });
}

function kindFor(way: Way): LadderKind<{ [K in keyof ReturnType<typeof fieldsFor>]: number }> {
  const { setting } = way;
  const fields = fieldsFor(way);
  return {
    id: way.id,
    title: way.title,
    feeds: { mark: 'mark', length: 'length' },
    finds: [setting],
    spec: schemaOf(fields),
    fields,
    sentence:
      `The machine has {present} ${settingInfo(setting).unit} now. The file heats and waits for the mark: set it {mark} mm ` +
      'above the extruder then, not before. It feeds {length} mm at {speed} mm/s.',
    reason: () =>
      'Slow and hot, so that nothing but the extruder decides. Nothing is printed: plastic drips from a raised nozzle.',
    unfit: (bench) =>
      takes(way, bench)
        ? null
        : problem(
            'machine',
            `${bench.machine.name} does not count its extruder in ${settingInfo(setting).title}.`,
            'Fill in the row for extruder steps among the machine’s commands, or use the other ladder.',
          ),
    standsOn: [],
    defaults: (bench) => ({ present: bench.tuned?.[setting] ?? way.usual, ...slowly(bench) }),
    check(spec, { filament }) {
      const flow = spec.speed / filamentFor(1, 1, filament.diameter);
      return [
        ...(spec.mark < spec.length + 10
          ? [
              warn(
                'stop',
                'mark-too-low',
                'mark',
                `A mark at ${short(spec.mark)} mm goes into the extruder when ${short(spec.length)} mm are fed, or more.`,
                `Mark at least ${short(spec.length + 10)} mm above it.`,
              ),
            ]
          : []),
        ...(flow > 2 * UNHINDERED
          ? [
              warn(
                'warning',
                'too-fast',
                'speed',
                `${short(spec.speed)} mm/s is ${short(flow, 1)} mm³/s; the nozzle holds that back, and the extruder slips.`,
                'Feed slower.',
              ),
            ]
          : []),
      ];
    },
    axes: () => [],
    lay(spec, bench) {
      const z = Math.min(FREE, bench.machine.height / 2);
      const to = bedCentre(bench.machine.bed);
      const box = { minX: to.x - 1, maxX: to.x + 1, minY: to.y - 1, maxY: to.y + 1 };
      return {
        view: 'front',
        axes: [],
        rungs: [
          { index: 0, at: [], set: {}, z: { from: 0, to: z }, layers: { first: 0, last: 0 } },
        ],
        steps: [
          { do: 'raise', z },
          { do: 'travel', to, retract: false },
          // What the start block purges is not to be measured: the mark is set after it.
          { do: 'pause', text: `Mark the filament at ${short(spec.mark)} mm now` },
          { do: 'rung', index: 0 },
          { do: 'say', text: `feeds ${short(spec.length)} mm, then measure from extruder to mark` },
          // Nothing is drawn back at the end, or the mark would tell less than was fed.
          { do: 'set', set: { retraction: 0 } },
          { do: 'feed', length: spec.length, speed: spec.speed },
          { do: 'wait', seconds: WAIT },
        ],
        box,
        height: z,
        width: 2,
        layerHeight: layerHeightOf(bench.nozzle.diameter),
        start: { nozzle: inForce(bench).nozzle },
        held: {},
        fed: spec.length,
      };
    },
    bounds: () => ({ [setting]: { min: way.ends[0], max: way.ends[1] } }),
    moved: (spec) => spec,
    criteria: [],
    rule: { kind: 'measured' },
    measures: [
      {
        key: 'left',
        label: 'Distance left to the mark',
        unit: 'mm',
        min: -50,
        max: 300,
        fewest: 1,
        most: 6,
        how: 'Measure from where the filament enters the extruder to the mark. Run the file two or three times with a fresh mark, and enter each.',
      },
    ],
    work({ left = [] }, { spec }) {
      const [present, length, mark] = ['present', 'length', 'mark'].map((key) => Number(spec[key]));
      return workedSteps(setting, { present: present!, length: length!, mark: mark! }, left);
    },
    carry: carryByCommand,
    otherCause: 'Mark and measure again.',
  };
}

export const extruderSteps = WAYS.map(kindFor);
