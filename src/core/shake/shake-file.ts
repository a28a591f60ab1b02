/**
 * A file that shakes a machine: to and fro along one direction, the frequency climbing in small steps, every stroke from
 * rest to rest at the same acceleration.
 *
 * A stroke takes half a period, `1/(2f)`: it speeds up to `a/(4f)` and slows down again over `a/(16f²)`. Before each run
 * through the frequencies the head stands, knocks twice, and stands again, so that the beginning is found in a record.
 */

import type { Bench } from '../bench/bench';
import { bedCentre, insideBed, type Point } from '../bench/bed';
import { inForce } from '../bench/in-force';
import { settingInfo, valueLine, type Setting, type Values } from '../bench/settings';
import { noShaper, shaperSettings, shaperWay } from '../bench/shaper';
import { CHANGES } from '../dialect/changes';
import { settingLine } from '../dialect/dialect';
import { audit, type Audit } from '../gcode/audit';
import { planLines } from '../gcode/plan-lines';
import { readText } from '../gcode/read';
import { planMotion } from '../motion/plan-motion';
import { short, tidy } from '../numbers';
import { fail, ok, problem, type Problem, type Result } from '../result';
import { plainLine, slug } from '../text';
import { VERSION } from '../version';
import { BEFOREHAND } from './beforehand';
import { SHAKE_MARK, type ShakeAxis, type ShakeMarks, type Sweep } from './marks';

export type ShakeAsked = {
  axis: ShakeAxis;
  /** Band, Hz. */
  from: number;
  to: number;
  /** Peak acceleration of every stroke, mm/s². */
  acceleration: number;
  /** How long one run through the band takes, s. */
  seconds: number;
  /** Middle of the strokes on the bed, and height, mm. */
  at: Point;
  z: number;
  /** Share of full. */
  fan: number;
};

export type ShakeFile = {
  text: string;
  name: string;
  marks: ShakeMarks;
  audit: Audit;
  /** From the first still part to the end, s. */
  seconds: number;
  lines: number;
  notes: string[];
};

export const BAND_ENDS: [number, number] = [2, 200];
const SECONDS_ENDS: [number, number] = [10, 300];
const LEAST_ACCELERATION = 100;
/** Frequencies are this far apart, Hz. */
const HZ_STEP = 0.5;
/** Two periods of this, Hz, are a knock. */
const [KNOCK_HZ, KNOCKS] = [20, 2];
/** The head stands this long before a knock, after it, and at the end, s. */
const [STILL, REST, AFTER] = [3, 1, 2];
/** A motor step of usual belts, mm: 80 steps/mm. Shorter strokes are rough, or none. */
const MOTOR_STEP = 0.0125;
/** Acceleration, mm/s², whose strokes are a motor step long at 135 Hz; gentler machines take their own most. */
const USUAL = 3700;
/** Lines a second that usual wires carry. */
const WIRE_LINES = 150;
/** Corners are turned this slow: a stroke begins and ends at rest. */
const SLOW: [Setting, number][] = [
  ['jerk', 0.05],
  ['deviation', 0.001],
  ['square', 0.1],
];
/** As read back a sweep may take longer than its strokes should by this share. */
const SAME_TIME = 0.01;
const LIFT_SPEED = 10;

const DIAGONAL = Math.SQRT1_2;
const directionsOf = (axis: ShakeAxis): Point[] =>
  axis === 'x'
    ? [{ x: 1, y: 0 }]
    : axis === 'y'
      ? [{ x: 0, y: 1 }]
      : [
          { x: DIAGONAL, y: DIAGONAL },
          { x: DIAGONAL, y: -DIAGONAL },
        ];

/** The largest value along a direction that no axis has less than. */
const along = ({ x, y }: Point, limits: { x: number; y: number }): number =>
  Math.min(
    x === 0 ? Infinity : limits.x / Math.abs(x),
    y === 0 ? Infinity : limits.y / Math.abs(y),
  );
const most = (axis: ShakeAxis, limits: { x: number; y: number }): number =>
  Math.min(...directionsOf(axis).map((one) => along(one, limits)));

export function usualShake({ machine }: Bench, axis: ShakeAxis): ShakeAsked {
  const { x, y } = bedCentre(machine.bed);
  return {
    axis,
    from: 5,
    to: 135,
    // A machine that cannot be told shakes with what it has.
    acceleration: Math.floor(
      Math.min(
        most(axis, machine.limits.acceleration),
        ...(machine.dialect.acceleration === ''
          ? [machine.limits.printAcceleration, machine.limits.travelAcceleration]
          : [USUAL]),
      ),
    ),
    seconds: 65,
    at: { x: tidy(x), y: tidy(y) },
    z: Math.min(30, Math.floor(machine.height / 3)),
    fan: 0,
  };
}

const strokeOf = (acceleration: number, hz: number): number => acceleration / (16 * hz * hz);

/** @returns problems for what the machine, or the eye, does not allow */
export function makeShakeFile(
  bench: Bench,
  given: Partial<ShakeAsked> & { axis: ShakeAxis },
): Result<ShakeFile> {
  const asked = { ...usualShake(bench, given.axis), ...given };
  const wrong = faultsIn(asked, bench);
  if (wrong.length > 0) return fail(...wrong);
  const pen = new Pen(bench, asked);
  const planned = pen.write();
  const title = `Ash Ladder ${VERSION}: shake along ${asked.axis}, ${plainLine(bench.machine.name)}`;
  const head = [
    `; ${plainLine(title, 120)}`,
    `; ${short(asked.from)} to ${short(asked.to)} Hz at ${short(asked.acceleration)} mm/s2, cold`,
    ...BEFOREHAND.map((line) => `; ${line}`),
  ];
  // Read back once, so that the marks say what this machine makes of the strokes, and not what was meant.
  const marks = asRun(planned, pen, [...head, ...pen.lines], bench);
  const late = Math.max(...marks.sweeps.map(({ ends }, i) => ends / planned.sweeps[i]!.ends - 1));
  if (late > SAME_TIME)
    return fail(
      problem(
        'file',
        `As read back it takes ${Math.round(100 * late)} % longer than it should: a limit of ${bench.machine.name} slows it.`,
        'Ask for less acceleration, or begin at a higher frequency.',
      ),
    );
  pen.sayTimes(marks);
  const text = [...head, ...pen.lines, ...planLines(marks, SHAKE_MARK), ''].join('\n');
  const trace = readText(text, bench.machine);
  const checked = audit(trace, bench);
  const stops = checked.findings.filter(({ grade }) => grade === 'stop');
  if (stops.length > 0) return fail(...stops.map(({ what, mend }) => problem('file', what, mend)));
  return ok({
    text,
    name: `${[bench.machine.name, 'shake', asked.axis].map(slug).filter(Boolean).join('-')}.gcode`,
    marks,
    audit: checked,
    seconds: pen.seconds,
    lines: trace.lines,
    notes: notesOn(asked, bench),
  });
}

function faultsIn(asked: ShakeAsked, bench: Bench): Problem[] {
  const { axis, from, to, acceleration, seconds, at, z, fan } = asked;
  const { machine } = bench;
  const { name, limits } = machine;
  const found: Problem[] = [];
  const between = (where: string, value: number, [low, high]: [number, number], unit: string) => {
    if (!(value >= low && value <= high))
      found.push(
        problem(
          where,
          `${short(value)} ${unit} was asked for.`,
          `Give ${short(low)} to ${short(high)} ${unit}.`,
        ),
      );
  };
  between('from', from, BAND_ENDS, 'Hz');
  between('to', to, BAND_ENDS, 'Hz');
  if (!(to >= from + 2))
    found.push(
      problem(
        'to',
        `The band ends at ${short(to)} Hz and begins at ${short(from)} Hz.`,
        'Let it end at least 2 Hz higher.',
      ),
    );
  between('seconds', seconds, SECONDS_ENDS, 's');
  between('fan', fan, [0, 1], 'of full');
  between('z', z, [1, machine.height], 'mm');
  const hardest = most(axis, limits.acceleration);
  if (!(acceleration >= LEAST_ACCELERATION && acceleration <= hardest * 1.0001))
    found.push(
      problem(
        'acceleration',
        `${short(acceleration)} mm/s² was asked for; along ${axis} ${name} takes ${short(hardest, 0)} mm/s².`,
        `Give ${LEAST_ACCELERATION} to ${short(Math.floor(hardest))} mm/s², or correct the machine’s limits.`,
      ),
    );
  if (found.length > 0) return found;
  const [fastest, peak] = [most(axis, limits.speed), acceleration / (4 * from)];
  if (peak > fastest)
    found.push(
      problem(
        'from',
        `At ${short(from)} Hz strokes of ${short(acceleration)} mm/s² reach ${short(peak, 0)} mm/s; ${name} goes ${short(fastest, 0)} mm/s at most.`,
        `Begin at ${short(Math.ceil(acceleration / (4 * fastest)))} Hz, or ask for at most ${short(Math.floor(4 * from * fastest))} mm/s².`,
      ),
    );
  const half = strokeOf(acceleration, from) / 2;
  const off = directionsOf(axis).some(({ x, y }) =>
    [-1, 1].some(
      (side) =>
        insideBed(machine.bed, { x: at.x + side * half * x, y: at.y + side * half * y }) < 0,
    ),
  );
  if (off)
    found.push(
      problem(
        'at',
        `Strokes of ${short(2 * half, 1)} mm about x ${short(at.x)}, y ${short(at.y)} leave the bed.`,
        'Choose a place nearer to the middle of the bed.',
      ),
    );
  return found;
}

function notesOn({ acceleration, to }: ShakeAsked, { machine, tuned }: Bench): string[] {
  const { dialect, limits } = machine;
  const notes: string[] = [];
  const coarse = Math.sqrt(acceleration / (16 * MOTOR_STEP));
  if (coarse < to)
    notes.push(
      `Above ${short(coarse, 0)} Hz a stroke is shorter than a motor step of ${MOTOR_STEP} mm: what is found there is rough.`,
    );
  if (2 * to > WIRE_LINES)
    notes.push(
      `At its end it is ${short(2 * to, 0)} lines a second: print it from the machine’s own card or memory, since a wire may not carry that.`,
    );
  if (dialect.acceleration === '')
    notes.push(
      `${machine.name} cannot be told an acceleration: make sure that it has ${short(acceleration)} mm/s².`,
    );
  if (SLOW.every(([setting]) => valueLine(setting, 1, { machine } as Bench) === null))
    notes.push(
      `${machine.name} cannot be told how to turn corners: strokes may not begin at rest.`,
    );
  if (shaperWay(dialect) === 'none')
    notes.push('If the machine has an input shaper, switch it off first: it hides what rings.');
  else if (!shaperSettings(dialect).some((setting) => tuned?.[setting]))
    notes.push('It leaves input shapers off. If the machine has one stored, restart it afterward.');
  if (limits.printAcceleration < acceleration)
    notes.push(
      `It shakes harder than ${machine.name} prints: ${short(acceleration)} instead of ${short(limits.printAcceleration)} mm/s².`,
    );
  return notes;
}

class Pen {
  readonly lines: string[] = [];
  /** Of each sweep the lines, from 0, at which its knock and each of its frequencies begins, and at which it has ended. */
  readonly placed: { knock: number; steps: number[]; end: number }[] = [];
  seconds = 0;
  private feed = NaN;
  private readonly held: Values;

  constructor(
    private readonly bench: Bench,
    private readonly asked: ShakeAsked,
  ) {
    this.held = { ...noShaper(bench.machine.dialect), ...Object.fromEntries(SLOW) };
  }

  write(): ShakeMarks {
    const { bench, asked } = this;
    const { machine } = bench;
    const { limits } = machine;
    const { acceleration, fan, at, z } = asked;
    this.put('G21', 'G90', 'M83');
    if (machine.extruder.tools > 1) this.put('T0');
    this.say('cold: nothing is heated');
    this.put('M104 S0', 'M140 S0', fan > 0 ? `M106 S${Math.round(fan * 255)}` : 'M107');
    this.put('M220 S100', 'G28');
    this.move({ z }, Math.min(LIFT_SPEED, limits.speed.z));
    this.move(at, machine.speeds.travel);
    this.say('shapers off, corners slow, and the acceleration of every stroke');
    this.set(this.held);
    this.accelerate(acceleration, acceleration);
    const sweeps: Sweep[] = [];
    let first = 0;
    for (const direction of directionsOf(asked.axis)) {
      this.still(sweeps.length === 0 ? STILL : AFTER);
      if (sweeps.length === 0) first = this.seconds;
      const after = tidy(this.seconds - first);
      this.say('knock');
      this.placed.push({ knock: this.lines.length, steps: [], end: 0 });
      const knock = this.strokes(direction, Array<number>(KNOCKS).fill(KNOCK_HZ));
      this.still(REST);
      sweeps.push({ ...this.sweep(direction, knock + REST), after });
    }
    this.still(AFTER);
    this.say('restore');
    const now = inForce(bench);
    this.accelerate(now.acceleration, limits.travelAcceleration);
    this.restore(now);
    this.put('M107', 'M84');
    const knock = KNOCKS / KNOCK_HZ;
    return {
      format: 'ash-ladder/shake',
      version: 1,
      axis: asked.axis,
      acceleration,
      knock: tidy(knock),
      rest: REST,
      sweeps,
    };
  }

  /** Says at each frequency when it begins. */
  sayTimes({ sweeps }: ShakeMarks): void {
    sweeps.forEach(({ steps }, i) =>
      steps.forEach(([seconds, hz], k) => {
        const line = this.placed[i]!.steps[k]!;
        this.lines[line] = `; ${short(hz)} Hz, ${short(seconds, 2)} s after the knock began`;
      }),
    );
  }

  private sweep(direction: Point, begins: number): Omit<Sweep, 'after'> {
    const { from, to, seconds } = this.asked;
    const pace = (to - from) / seconds;
    const steps: Sweep['steps'] = [];
    const frequencies: number[] = [];
    let at = begins;
    for (let k = 0; from + k * HZ_STEP <= to + 1e-9; k++) {
      const hz = tidy(from + k * HZ_STEP);
      const periods = Math.max(1, Math.round((hz * HZ_STEP) / pace));
      steps.push([tidy(Math.round(1e4 * at) / 1e4), hz]);
      for (let i = 0; i < periods; i++) frequencies.push(hz);
      at += periods / hz;
    }
    const ends = begins + this.strokes(direction, frequencies, steps);
    this.placed.at(-1)!.end = this.lines.length;
    return { along: direction, steps, ends: tidy(Math.round(1e4 * ends) / 1e4) };
  }

  /** Periods of these frequencies, one after the other, ending where they began. @returns how long they take, s */
  private strokes(
    { x, y }: Point,
    frequencies: readonly number[],
    said: Sweep['steps'] = [],
  ): number {
    const { acceleration, at } = this.asked;
    let [now, time, next] = [0, 0, 0];
    const to = (place: number, hz: number) => {
      time += 2 * Math.sqrt(Math.abs(place - now) / acceleration);
      now = place;
      // A little over the speed that a stroke reaches: it must not be what ends the speeding up.
      this.go(at.x + x * place, at.y + y * place, Math.ceil(60 * (acceleration / (4 * hz)) * 1.01));
    };
    frequencies.forEach((hz, i) => {
      if (said[next]?.[1] === hz) {
        this.placed.at(-1)!.steps.push(this.lines.length);
        this.say(`${short(hz)} Hz`);
        next++;
      }
      const half = strokeOf(acceleration, hz) / 2;
      to(half, hz);
      to(i === frequencies.length - 1 ? 0 : -half, hz);
    });
    this.seconds += time;
    return time;
  }

  private go(x: number, y: number, feed: number): void {
    const { axis } = this.asked;
    const place = `${axis === 'y' ? '' : ` X${short(x, 5)}`}${axis === 'x' ? '' : ` Y${short(y, 5)}`}`;
    this.put(`G1${place}${feed === this.feed ? '' : ` F${feed}`}`);
    this.feed = feed;
  }

  private move(to: Partial<Point & { z: number }>, speed: number): void {
    const place = (['x', 'y', 'z'] as const)
      .filter((axis) => to[axis] !== undefined)
      .map((axis) => ` ${axis.toUpperCase()}${short(to[axis]!)}`);
    this.feed = Math.round(60 * speed);
    this.put(`G0${place.join('')} F${this.feed}`);
  }

  private still(seconds: number): void {
    this.say(`still for ${short(seconds)} s`);
    this.put('M400', `G4 P${Math.round(1000 * seconds)}`);
    this.seconds += seconds;
  }

  private accelerate(print: number, travel: number): void {
    const line = settingLine(this.bench.machine.dialect, 'acceleration', { print, travel });
    if (line !== null) this.put(line);
  }

  /** Sets values; of several that share a line, the line is written once. */
  private set(values: Values): void {
    const tuned = { ...this.bench.tuned, ...values };
    const lines = (Object.entries(values) as [Setting, number][]).flatMap(
      ([setting, value]) => valueLine(setting, value, { ...this.bench, tuned }) ?? [],
    );
    this.put(...new Set(lines));
  }

  private restore(now: Record<Setting, number>): void {
    const lines = (Object.keys(this.held) as Setting[]).flatMap((setting) =>
      Number.isFinite(now[setting])
        ? (settingInfo(setting).restored?.(this.bench) ??
          valueLine(setting, now[setting], this.bench) ??
          [])
        : [],
    );
    this.put(...new Set(lines));
  }

  private put(...lines: string[]): void {
    this.lines.push(...lines);
  }
  private say(comment: string): void {
    this.lines.push(`; ${comment}`);
  }
}

/** Marks with the times at which a machine reaches their lines. @param lines the file so far, without its marks */
function asRun(planned: ShakeMarks, pen: Pen, lines: readonly string[], bench: Bench): ShakeMarks {
  const trace = readText(lines.join('\n'), bench.machine);
  const { time } = planMotion(trace, bench.machine);
  const { moves, changes } = trace;
  // What each line takes, and from that when each is reached; lines count from 1.
  const reached = new Float64Array(lines.length + 2);
  for (let i = 0; i < moves.count; i++) reached[moves.line[i]! + 1]! += time[i]!;
  for (let i = 0; i < changes.count; i++)
    if (CHANGES[changes.code[i]!] === 'dwell') reached[changes.line[i]! + 1]! += changes.value[i]!;
  for (let line = 1; line < reached.length; line++) reached[line]! += reached[line - 1]!;
  const head = lines.length - pen.lines.length;
  const at = (line: number): number => reached[head + line + 1]!;
  const rounded = (seconds: number) => tidy(Math.round(1e4 * seconds) / 1e4);
  const first = at(pen.placed[0]!.knock);
  return {
    ...planned,
    sweeps: planned.sweeps.map((sweep, i) => {
      const { knock, steps, end } = pen.placed[i]!;
      return {
        ...sweep,
        after: rounded(at(knock) - first),
        steps: sweep.steps.map(([, hz], k) => [rounded(at(steps[k]!) - at(knock)), hz]),
        ends: rounded(at(end) - at(knock)),
      };
    }),
  };
}
