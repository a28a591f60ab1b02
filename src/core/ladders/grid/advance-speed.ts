/** Pressure advance at several speeds: where more flows, pressure follows faster. */

import type { Bench } from '../../bench/bench';
import { inForce } from '../../bench/in-force';
import { layerHeightOf, surelyMelted } from '../../deposit/conditions';
import { short, tidy } from '../../numbers';
import {
  bounds,
  shared,
  slowBeside,
  testConditions,
  usualAcceleration,
  usualRange,
} from '../advance/common';
import { climb } from '../climb';
import { FLAT_FIELDS, PLACED } from '../fields';
import type { Field } from '../types';
import { sectionOf, type MapCell } from '../map/cells';
import { mapPattern } from '../map/form';
import { acrossOf, patternPair, type Along, type GridSpec } from './pair';

/** Columns, and the slowest speed beside the fastest. */
const [COLUMNS, SLOWEST] = [4, 0.4];
/** Height at which the head crosses figures and signs, mm. */
const OVER = 1.2;
/** Longest way to speed up, mm. */
const LONGEST_RAMP = 12;
/** Way at full speed, mm, where a bed has no room for more. */
const SHORT_HOLD = 15;
/** Time at full speed, in time constants of the pressure. */
const AT_REST = 2.5;

const advanceAlong: Along = {
  setting: 'advance',
  ends: [0, 2],
  range: (bench) => {
    const { from, step } = usualRange(bench, 0.015, 0.15);
    return { from, to: tidy(from + 6 * step), step };
  },
  bounds: (bench) => ({ ...bounds(bench), why: `no extruder like this needs more` }),
};

const fastestOf = (bench: Bench): number => {
  const layerHeight = layerHeightOf(bench.nozzle.diameter);
  const { x, y } = bench.machine.limits.speed;
  const melted = surelyMelted(sectionOf({ layerHeight }, bench), bench);
  const most = Math.min(melted, x, y);
  // What is reached within the longest ramp.
  const gentle = usualAcceleration(bench, most, advanceAlong.range(bench).to);
  return Math.max(20, Math.min(most, Math.floor(Math.sqrt(2 * gentle * LONGEST_RAMP))));
};

const speedAlong: Along = {
  setting: 'wallSpeed',
  ends: [3, 1000],
  range: (bench) => {
    const most = fastestOf(bench);
    const step = Math.max(1, Math.floor(((1 - SLOWEST) * most) / (COLUMNS - 1)));
    return { from: most - (COLUMNS - 1) * step, to: most, step };
  },
  bounds: ({ machine }) => ({
    min: 3,
    max: Math.min(machine.limits.speed.x, machine.limits.speed.y),
    why: `the axes of ${machine.name} have no more`,
  }),
};

const FIELDS: Record<string, Field> = {
  slow: { label: 'Slow', unit: 'mm/s', min: 5, max: 100, step: 5, folded: true },
  hold: { label: 'Way at full speed', unit: 'mm', min: 5, max: 100, step: 1, folded: true },
  slowLength: { label: 'Slow length', unit: 'mm', min: 5, max: 60, step: 1, folded: true },
  acceleration: {
    label: 'Acceleration of the test',
    unit: 'mm/s²',
    min: 10,
    max: 100_000,
    step: 100,
    folded: true,
  },
  ...FLAT_FIELDS,
};

function usual(bench: Bench) {
  const fastest = fastestOf(bench);
  const { to } = advanceAlong.range(bench);
  const lag = inForce(bench).advance || to / 2;
  return {
    slow: Math.min(slowBeside(fastest, bench), Math.max(5, Math.floor((SLOWEST * fastest) / 3))),
    hold: Math.min(40, Math.max(12, Math.ceil(AT_REST * lag * fastest))),
    slowLength: 8,
    acceleration: usualAcceleration(bench, fastest, to),
    layerHeight: layerHeightOf(bench.nozzle.diameter),
    ...PLACED,
  };
}
type Spec = GridSpec & ReturnType<typeof usual>;

const cellsOf = (spec: Spec, bench: Bench): MapCell[] =>
  climb(acrossOf(spec)).map((speed) => ({
    speed,
    acceleration: spec.acceleration,
    flow: tidy(Math.round(10 * speed * sectionOf(spec, bench)) / 10),
  }));

export const advanceSpeed = patternPair(
  {
    id: 'advance-speed',
    title: 'Pressure advance and speed',
    rows: 'behind',
    up: advanceAlong,
    across: speedAlong,
    fields: FIELDS,
    usual,
    formSaid: ': for each cell a hairpin, out and back',
    standsOn: ['nozzle', 'flow', 'retraction'],
    least: [],
    criteria: [
      {
        name: 'evenness',
        weight: 1,
        where: 'beside the arrows: one leg thick where the other is thin',
      },
    ],
    unfit: shared.unfit,
    reason:
      'Lowest in front, slowest at the left. Each speed has a best value of its own; how they drift is told, and a map says ' +
      'it for every acceleration too.',
    otherCause: shared.otherCause,
    carry: (setting, value, bench) =>
      setting === 'advance'
        ? shared.carry(setting, value, bench)
        : {
            lines: [],
            say: `It was best at ${short(value)} mm/s: there the figures are most even.`,
          },
  },
  (given, bench, { columns }) => {
    const spec = given as Spec;
    const cells = cellsOf(spec, bench);
    return {
      spec,
      ...mapPattern(
        [cells],
        spec,
        bench,
        (cell) => [columns[cells.indexOf(cell)]!, String(Math.round(10 * cell.flow))],
        true,
      ),
      held: testConditions(spec.acceleration, bench),
      over: OVER,
    };
  },
  (spec) => {
    const brief = { ...spec, hold: Math.min(spec.hold!, SHORT_HOLD) };
    // Three columns still show a drift.
    const step = Math.floor((spec.right - spec.left) / 2);
    const three = { ...brief, left: spec.right - 2 * step, columnStep: step };
    const small = { ...three, hold: 6, slowLength: 5 };
    return [brief, three, small, { ...small, step: tidy(2 * spec.step) }];
  },
);
