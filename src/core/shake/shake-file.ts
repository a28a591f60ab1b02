/**
 * A file that shakes a machine: to and fro along one direction, the frequency climbing in small steps, every stroke from
 * rest to rest at the same acceleration.
 *
 * A stroke takes half a period, `1/(2f)`: it speeds up to `a/(4f)` and slows down again over `a/(16f²)`. Before each run
 * through the frequencies the head stands, knocks twice, and stands again, so that the beginning is found in a record.
 */

import type { Bench } from '../bench/bench';
import type { Point } from '../bench/bed';
import { inForce } from '../bench/in-force';
import { settingInfo, valueLine, type Setting, type Values } from '../bench/settings';
import { noShaper } from '../bench/shaper';
import { CHANGES } from '../dialect/changes';
import { settingLine } from '../dialect/dialect';
import { audit, type Audit } from '../gcode/audit';
import { planLines } from '../gcode/plan-lines';
import { readText } from '../gcode/read';
import { planMotion } from '../motion/plan-motion';
import { short, tidy } from '../numbers';
import { fail, ok, problem, type Result } from '../result';
import { plainLine, slug } from '../text';
import { VERSION } from '../version';
import {
  BEFOREHAND,
  directionsOf,
  faultsIn,
  notesOn,
  SLOW,
  strokeOf,
  usualShake,
  type ShakeAsked,
} from './asked';
import { SHAKE_MARK, type ShakeAxis, type ShakeMarks, type Sweep } from './marks';

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

/** Frequencies are this far apart, Hz. */
const HZ_STEP = 0.5;
/** Two periods of this, Hz, are a knock. */
const [KNOCK_HZ, KNOCKS] = [20, 2];
/** The head stands this long before a knock, after it, and at the end, s. */
const [STILL, REST, AFTER] = [3, 1, 2];
/** As read back a sweep may take longer than its strokes should by this share. */
const SAME_TIME = 0.01;
const LIFT_SPEED = 10;

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
