/**
 * What an accelerometer on a simulated machine records while a file runs: how the head really moves, gravity, the way in
 * which the sensor sits, its noise, and what may be wrong with its wires. It knows the text alone.
 */

import type { Bench } from '../core/bench/bench';
import { tunedMachine } from '../core/bench/in-force';
import { CHANGES } from '../core/dialect/changes';
import { readText } from '../core/gcode/read';
import { MOVE, type Trace } from '../core/gcode/trace';
import { planMotion } from '../core/motion/plan-motion';
import { normal, seeded, type Random } from '../core/random';
import { fail, ok, problem, type Result } from '../core/result';
import type { Train } from '../core/shake/trains';
import { Shaping, type Shapers } from './shaping';
import { Ringing } from './ringing';
import type { Truths } from './truths';

/** What may be wrong with a sensor. */
export const SENSOR_FAULTS = {
  none: 'nothing',
  power: 'it has no power',
  wires: 'data and clock are swapped',
  axis: 'one axis is dead',
  range: 'its range is too small',
  gaps: 'its wires are too long, and samples get lost',
  noise: 'it is loose, and beside a motor',
} as const;
export type SensorFault = keyof typeof SENSOR_FAULTS;

export type RecordOptions = {
  /** Samples a second; sensors are seldom quite at what they are set to. */
  rate?: number;
  fault?: SensorFault;
  /** Only the first still part: whether the sensor is right. */
  still?: boolean;
};

const GRAVITY = 9806.65;
const USUAL_RATE = 3200;
/** Seconds that go by before somebody starts the record, within the first still part. */
const LATE = 0.5;
/** Longest run, s. */
const MOST_SECONDS = 600;
/** Steps of motion within a sample. */
const SUBSTEPS = 2;

/** Commanded speed of both axes over time: points between which it changes evenly. */
type Course = { time: number[]; vx: number[]; vy: number[] };

/** @returns a record as text: a row a sample, time in s and three columns in g */
export function recordOf(
  text: string,
  bench: Bench,
  truths: Truths,
  options: RecordOptions = {},
): Result<string> {
  const trace = readText(text, bench.machine);
  const [course, shapers] = courseOf(trace, bench);
  const seconds = (options.still ? 1.5 : course.time.at(-1)!) - LATE;
  if (!(seconds > 0.5 && seconds <= MOST_SECONDS))
    return fail(
      problem(
        'file',
        `From its first pause on this file runs for ${Math.round(seconds)} s.`,
        'Give a shake file of at most ten minutes.',
      ),
    );
  const rate = (options.rate ?? USUAL_RATE) * (1 + 0.003 * normal(seeded(truths.seed ^ 0x51a3)));
  const count = Math.floor(seconds * rate);
  const head = headOf(course, shapers, truths, rate, count);
  return ok(felt(head, truths, rate, options.fault ?? 'none'));
}

/** From the first dwell on, when somebody has started the record. */
function courseOf(trace: Trace, bench: Bench): [Course, Shapers] {
  const machine = tunedMachine(bench);
  const motion = planMotion(trace, machine);
  const { moves, changes } = trace;
  const shaping = new Shaping(machine.dialect);
  const course: Course = { time: [0], vx: [0], vy: [0] };
  let [now, started, at] = [0, false, 0];
  const to = (seconds: number, vx: number, vy: number) => {
    now += seconds;
    course.time.push(now);
    course.vx.push(vx);
    course.vy.push(vy);
  };
  const obey = () => {
    const name = CHANGES[changes.code[at]!]!;
    const value = changes.value[at]!;
    shaping.take(name, value);
    if (name === 'dwell') started = true;
    if (name === 'dwell') to(value, 0, 0);
    at++;
  };
  for (let i = 0; i < moves.count; i++) {
    while (at < changes.count && changes.move[at]! <= i) obey();
    const seconds = motion.time[i]!;
    if (!started || !(seconds > 0) || moves.kind[i] === MOVE.home || i === 0) continue;
    const [dx, dy] = [moves.x[i]! - moves.x[i - 1]!, moves.y[i]! - moves.y[i - 1]!];
    const length = Math.hypot(dx, dy, moves.z[i]! - moves.z[i - 1]!);
    if (length === 0) continue;
    const [ux, uy] = [dx / length, dy / length];
    const [v0, top, a] = [motion.entry[i]!, motion.top[i]!, motion.acceleration[i]!];
    const v1 = motion.time[i + 1]! > 0 ? motion.entry[i + 1]! : 0;
    to(0, ux * v0, uy * v0);
    to((top - v0) / a, ux * top, uy * top);
    const ramps = (2 * top * top - v0 * v0 - v1 * v1) / (2 * a);
    to(Math.max(0, length - ramps) / top, ux * top, uy * top);
    to((top - v1) / a, ux * v1, uy * v1);
  }
  while (at < changes.count) obey();
  to(0, 0, 0);
  return [course, shaping.trains()];
}

/** Commanded speed of an axis behind its shaper, asked for at times that only rise. */
class Commanded {
  private readonly shares: readonly number[];
  private readonly times: readonly number[];
  private readonly at: Int32Array;

  constructor(
    private readonly course: Course,
    private readonly speeds: readonly number[],
    train: Train | null,
  ) {
    this.shares = train?.shares ?? [1];
    this.times = train?.times ?? [0];
    this.at = new Int32Array(this.times.length);
  }

  speed(seconds: number): number {
    const { time } = this.course;
    let sum = 0;
    for (let k = 0; k < this.times.length; k++) {
      const t = seconds - this.times[k]!;
      let i = this.at[k]!;
      while (i + 2 < time.length && time[i + 1]! <= t) i++;
      this.at[k] = i;
      const [from, to] = [time[i]!, time[i + 1]!];
      const share = to > from ? Math.min(1, Math.max(0, (t - from) / (to - from))) : 1;
      const [a, b] = [this.speeds[i]!, this.speeds[i + 1]!];
      sum += this.shares[k]! * (t <= 0 ? 0 : a + share * (b - a));
    }
    return sum;
  }
}

type Head = Record<'x' | 'y' | 'panel', Float64Array>;

/** Acceleration of the head along x and y, and of what is loose beside it, mm/s². */
function headOf(
  course: Course,
  shapers: Shapers,
  truths: Truths,
  rate: number,
  count: number,
): Head {
  const { resonance, damping, overtone, panel } = truths;
  const axes = (['x', 'y'] as const).map((axis) => ({
    commanded: new Commanded(course, axis === 'x' ? course.vx : course.vy, shapers[axis]),
    rings: new Ringing(resonance[axis], damping[axis], overtone[axis]),
    before: 0,
    out: new Float64Array(count),
  }));
  const rattles = panel ? new Ringing(panel.hz, panel.damping) : null;
  const loose = new Float64Array(count);
  const step = 1 / (rate * SUBSTEPS);
  const skipped = Math.round(LATE * rate) * SUBSTEPS;
  for (let n = 0; n < skipped + count * SUBSTEPS; n++) {
    const i = Math.floor((n - skipped) / SUBSTEPS);
    let pushed = 0;
    for (const axis of axes) {
      const speed = axis.commanded.speed((n + 1) * step);
      axis.rings.run((speed - axis.before) / step, step);
      axis.before = speed;
      const pull = axis.rings.pull();
      if (i >= 0) axis.out[i]! += pull / SUBSTEPS;
      pushed += pull;
    }
    rattles?.run(pushed, step);
    if (rattles && panel && i >= 0) loose[i]! += (panel.share * rattles.pull()) / SUBSTEPS;
  }
  return { x: axes[0]!.out, y: axes[1]!.out, panel: loose };
}

type Direction = [number, number, number];

/** How the sensor sits: where the machine's x, y and z lie in its own columns. Along its edges, not quite. */
function mounting(random: Random): [Direction, Direction, Direction] {
  const order = [0, 1, 2].sort(() => random() - 0.5);
  const rows = order.map((axis): Direction => {
    const row: Direction = [0.04 * normal(random), 0.04 * normal(random), 0.04 * normal(random)];
    row[axis] = random() < 0.5 ? 1 : -1;
    return row;
  });
  // Made right-angled again (J. Gram, E. Schmidt).
  const made: Direction[] = [];
  for (const row of rows) {
    const rest = made.reduce<Direction>((left, one) => {
      const part = left[0] * one[0] + left[1] * one[1] + left[2] * one[2];
      return [left[0] - part * one[0], left[1] - part * one[1], left[2] - part * one[2]];
    }, row);
    const length = Math.hypot(...rest);
    made.push([rest[0] / length, rest[1] / length, rest[2] / length]);
  }
  return made as [Direction, Direction, Direction];
}

/** A step of usual sensors, g, and their range. */
const [COUNT, RANGE, SMALL_RANGE] = [0.0039, 16, 1.06];

function felt({ x, y, panel }: Head, truths: Truths, rate: number, fault: SensorFault): string {
  const random = seeded(truths.seed ^ 0x3c6ef372);
  const [ex, ey, ez] = mounting(random);
  const noise = (40 + 120 * random()) * (fault === 'noise' ? 60 : 1);
  const bias = [0, 1, 2].map(() => 0.03 * normal(random));
  const lost = fault === 'gaps' ? 0.06 : 2e-4;
  const range = fault === 'range' ? SMALL_RANGE : RANGE;
  const dead = Math.floor(3 * random());
  const rows = ['time (s),x (g),y (g),z (g)'];
  let losing = 0;
  for (let i = 0; i < x.length; i++) {
    if (losing > 0) losing--;
    else if (random() < lost / 20) losing = fault === 'gaps' ? 40 : 2;
    const cells = [0, 1, 2].map((axis) => {
      const upward = GRAVITY + 0.6 * panel[i]!;
      const level =
        ex[axis]! * x[i]! + ey[axis]! * y[i]! + 0.5 * (ex[axis]! - ey[axis]!) * panel[i]!;
      const g = (level + ez[axis]! * upward + noise * normal(random)) / GRAVITY + bias[axis]!;
      if (fault === 'power') return '0';
      if (fault === 'wires') return '-0.0039';
      if (fault === 'axis' && axis === dead) return '0';
      return (Math.round(Math.max(-range, Math.min(range, g)) / COUNT) * COUNT).toFixed(4);
    });
    if (losing === 0) rows.push(`${(i / rate).toFixed(6)},${cells.join(',')}`);
  }
  return `${rows.join('\n')}\n`;
}
