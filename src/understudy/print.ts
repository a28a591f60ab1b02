/** Prints a file: takes nothing but its text, and a machine with its hidden truths. */

import { bedCentre, type Point } from '../core/bench/bed';
import { tunedMachine } from '../core/bench/in-force';
import type { Bench } from '../core/bench/bench';
import type { Values as RowValues } from '../core/dialect/template';
import { fedSinceMark } from '../core/gcode/marked';
import { printBox } from '../core/gcode/print-box';
import { readText } from '../core/gcode/read';
import { MOVE, type Trace } from '../core/gcode/trace';
import { planMotion, type Motion } from '../core/motion/plan-motion';
import { layersIn } from '../core/view/layers';
import { seeded } from '../core/random';
import { roundArea, beadWidth } from '../core/deposit/bead';
import { Controls } from './controls';
import { Surface } from './surface';
import { Melt } from './melt';
import { Ringing } from './ringing';
import { sag } from './sag';
import { SAMPLE, samplesFor, type Samples, type Thread } from './samples';
import { settle } from './settle';
import { threadOf, type Way } from './threads';
import type { Truths } from './truths';

export type Printed = {
  samples: Samples;
  threads: Thread[];
  /** Seconds from the first line to the last, heating and all. */
  seconds: number;
  /** Filament fed, mm: as it was commanded, and as it really came past the feeder since it was marked, if it was. */
  filament: number;
  came: number;
  /** Bore of the nozzle, mm. */
  bore: number;
  /** Why it ended early, or null. */
  failed: string | null;
};

export type PrintOptions = {
  /** Told shares from 0 to 1. */
  progress?: (share: number) => void;
  /** A heater that does not heat. */
  brokenHeater?: boolean;
  /** The machine's own first-layer offset, mm upward. */
  raised?: number;
  /** What it has stored, by the variables of its rows. */
  stored?: RowValues;
};

/** Directions that differ by more than this are a corner. */
const CORNER_COS = Math.cos((35 * Math.PI) / 180);
/** Slower than this, mm/s, the head stands. */
const STANDS = 1e-3;
/** Below this the feeder cannot push, °C. */
const TOO_STIFF = 150;

/** Prints the whole text. */
export function printText(
  text: string,
  bench: Bench,
  truths: Truths,
  options: PrintOptions = {},
): Printed {
  return printTrace(readText(text, bench.machine), bench, truths, options);
}

export function printTrace(
  trace: Trace,
  bench: Bench,
  truths: Truths,
  options: PrintOptions = {},
): Printed {
  const motion = planMotion(trace, tunedMachine(bench));
  return new Press(trace, motion, bench, truths, options).run();
}

/** One print under way. */
class Press {
  readonly samples: Samples;
  private readonly threads: Thread[] = [];
  private readonly controls: Controls;
  private readonly melts: Melt[];
  private readonly ringX: Ringing;
  private readonly ringY: Ringing;
  readonly surface: Surface;
  private readonly thickness: Float32Array;
  private readonly strand: number;
  readonly bore: number;
  /** Of the bed, about which it tilts. */
  private readonly middle: Point;
  private readonly random;
  private count = 0;
  /** Commanded velocity at the end of the last move, mm/s, and feed, mm/s of filament. */
  private vx = 0;
  private vy = 0;
  private fed = 0;
  /** Ways since the last stroke. */
  private readonly ways: Way[] = [];
  private begun = 0;

  constructor(
    private readonly trace: Trace,
    private readonly motion: Motion,
    bench: Bench,
    readonly truths: Truths,
    private readonly options: PrintOptions,
  ) {
    const { filament, nozzle } = bench;
    this.strand = roundArea(filament.diameter);
    this.bore = nozzle.diameter;
    this.middle = bedCentre(bench.machine.bed);
    this.random = seeded(truths.seed ^ 0x2545f491);
    this.controls = new Controls(bench, truths, options);
    this.melts = Array.from({ length: this.controls.tools }, () => new Melt(truths, this.strand));
    this.ringX = new Ringing(truths.resonance.x, truths.damping.x, truths.overtone.x);
    this.ringY = new Ringing(truths.resonance.y, truths.damping.y, truths.overtone.y);
    const box = printBox(trace) ?? { minX: 0, minY: 0, maxX: 1, maxY: 1 };
    this.surface = new Surface({
      minX: box.minX - 2,
      minY: box.minY - 2,
      maxX: box.maxX + 2,
      maxY: box.maxY + 2,
    });
    this.thickness = new Float32Array(trace.moves.count);
    for (const { from, to, thickness } of layersIn(trace))
      this.thickness.fill(thickness, from, to + 1);
    this.samples = samplesFor(sampleCount(trace));
  }

  run(): Printed {
    const { trace, options, controls } = this;
    const { moves, changes } = trace;
    let filament = 0;
    let failed: string | null = null;
    let at = 0;
    const every = Math.max(1, moves.count >> 6);
    for (let i = 0; i < moves.count && !failed; i++) {
      for (; at < changes.count && changes.move[at]! <= i; at++)
        failed ??= controls.obey(trace, at);
      if (failed) break;
      filament += moves.e[i]!;
      this.move(i);
      if (i % every === 0) options.progress?.(i / moves.count);
    }
    for (; at < changes.count && !failed; at++) failed ??= controls.obey(trace, at);
    const { samples } = this;
    samples.count = this.count;
    markUntil(samples);
    sag(samples, this.bore, this.truths.taut);
    options.progress?.(1);
    const { threads, bore } = this;
    return {
      samples,
      threads,
      seconds: controls.time,
      filament,
      came: fedSinceMark(trace) * this.truths.feeds,
      bore,
      failed,
    };
  }

  private move(i: number): void {
    const { moves } = this.trace;
    const { motion } = this;
    const kind = moves.kind[i]!;
    const seconds = motion.time[i]!;
    const melt = this.melts[this.controls.tool]!;
    if (kind === MOVE.home || !(seconds > 0)) {
      this.vx = this.vy = 0;
      return;
    }
    if (kind === MOVE.retract || kind === MOVE.restart) {
      this.rest();
      // What comes out here stays as a blob at this place; it is no thread.
      melt.feed(moves.e[i]!, seconds, this.controls.melt);
      this.fed = 0;
      this.controls.pass(seconds);
      this.begun = 0;
      return;
    }
    const p = Math.max(0, i - 1);
    const dx = moves.x[i]! - moves.x[p]!;
    const dy = moves.y[i]! - moves.y[p]!;
    const length = Math.hypot(dx, dy, moves.z[i]! - moves.z[p]!);
    const [ux, uy] = [dx / length, dy / length];
    if (kind === MOVE.travel) return this.travel(i, ux, uy, seconds);
    this.stroke(i, p, ux, uy, length);
  }

  /** The head stands: what it was told jumps to nothing. */
  private rest(): void {
    this.shake(-this.vx, -this.vy);
    this.vx = this.vy = 0;
  }

  private shake(dvx: number, dvy: number): void {
    this.ringX.jump(dvx);
    this.ringY.jump(dvy);
  }

  private travel(i: number, ux: number, uy: number, seconds: number): void {
    const { moves } = this.trace;
    const melt = this.melts[this.controls.tool]!;
    const entry = this.motion.entry[i]!;
    this.shake(ux * entry - this.vx, uy * entry - this.vy);
    const exit = this.exitOf(i);
    this.ringX.run((ux * (exit - entry)) / seconds, seconds);
    this.ringY.run((uy * (exit - entry)) / seconds, seconds);
    this.vx = ux * exit;
    this.vy = uy * exit;
    if (this.fed !== 0) melt.advance(-this.controls.advance * this.fed);
    this.fed = 0;
    let leaked = melt.leak(seconds, this.controls.melt);
    if (moves.e[i]! !== 0) leaked += melt.feed(moves.e[i]!, seconds, this.controls.melt);
    const p = Math.max(0, i - 1);
    // A lift on the spot leaves a blob there, no thread.
    if (Math.hypot(moves.x[i]! - moves.x[p]!, moves.y[i]! - moves.y[p]!) > SAMPLE)
      this.ways.push({
        from: { x: moves.x[p]!, y: moves.y[p]! },
        to: { x: moves.x[i]!, y: moves.y[i]! },
        leaked,
      });
    this.controls.pass(seconds);
    this.begun = 0;
  }

  /** Speed at the end of a move, mm/s. */
  private exitOf(i: number): number {
    const next = i + 1 < this.trace.moves.count ? this.motion.entry[i + 1]! : 0;
    return this.motion.time[i + 1]! > 0 ? next : 0;
  }

  /** Before the first stroke after a travel: what leaked on the way has become a thread, or not. */
  private endTravel(z: number, layer: number): void {
    const { surface, truths, random } = this;
    const thread = threadOf(this.ways, { z, layer }, surface, truths.threadHolds, random);
    this.ways.length = 0;
    if (thread) this.threads.push(thread);
  }

  private stroke(i: number, p: number, ux: number, uy: number, length: number): void {
    const { trace, motion, samples, surface, truths, controls } = this;
    const { moves } = trace;
    const z = moves.z[i]!;
    const melt = this.melts[this.controls.tool]!;
    const perMm = moves.e[i]! / length;
    const asked = perMm * this.strand;
    // What is thick enough to reach the bed lies on it, whatever else of its layer lies higher or lower.
    const middle = { x: moves.x[p]! + (ux * length) / 2, y: moves.y[p]! + (uy * length) / 2 };
    const firstLayer = z <= Math.sqrt((4 * asked) / Math.PI) && surface.bare(middle.x, middle.y, z);
    const layer = firstLayer ? z : this.thickness[i]! || 0.2;
    if (this.ways.length > 0) this.endTravel(z, layer);
    const entry = motion.entry[i]!;
    const exit = this.exitOf(i);
    const [top, a] = [motion.top[i]!, motion.acceleration[i]!];
    const turn = Math.hypot(this.vx, this.vy);
    const corner =
      turn > 0 && (this.vx * ux + this.vy * uy) / turn < CORNER_COS ? true : this.begun === 0;
    this.shake(ux * entry - this.vx, uy * entry - this.vy);
    const steps = Math.max(1, Math.ceil(length / SAMPLE));
    const ds = length / steps;
    const askedWidth = beadWidth(asked, layer);
    const shift = controls.tool > 0 ? truths.second : NO_SHIFT;
    let v = entry;
    let since = corner || this.count === 0 ? 0 : samples.since[this.count - 1]!;
    for (let k = 0; k < steps; k++) {
      const s = (k + 1) * ds;
      const next = Math.min(
        top,
        Math.sqrt(entry * entry + 2 * a * s),
        Math.sqrt(exit * exit + 2 * a * Math.max(0, length - s)),
      );
      const dt = (2 * ds) / Math.max(v + next, STANDS);
      const celsius = controls.melt;
      const fed = perMm * next;
      // Half of the jump before and half after: within a sample speed changes steadily.
      const jump =
        controls.advance > 0 ? (controls.advance * (fed - this.fed) * truths.feeds) / 2 : 0;
      melt.advance(jump);
      this.fed = fed;
      const out = celsius < TOO_STIFF ? 0 : melt.feed(perMm * ds, dt, celsius);
      melt.advance(jump);
      const acceleration = (next - v) / dt;
      this.ringX.run(ux * acceleration, dt);
      this.ringY.run(uy * acceleration, dt);
      const { shapers } = controls;
      const [ox, oy] = [this.ringX.shaped(shapers.x), this.ringY.shaped(shapers.y)];
      const x = moves.x[p]! + ux * (s - ds / 2) + ox + shift.x;
      const y = moves.y[p]! + uy * (s - ds / 2) + oy + shift.y;
      since += ds;
      this.begun += ds;
      const gap = firstLayer
        ? Math.max(
            0.02,
            layer +
              controls.raised +
              truths.bed.offset +
              truths.bed.tiltX * (x - this.middle.x) +
              truths.bed.tiltY * (y - this.middle.y),
          )
        : layer;
      const area = out / ds;
      const n = this.count++;
      samples.x[n] = x;
      samples.y[n] = y;
      samples.z[n] = z;
      samples.gap[n] = gap;
      samples.width[n] = Math.max(0, beadWidth(area, gap));
      samples.asked[n] = askedWidth;
      samples.ratio[n] = asked > 0 ? area / asked : 1;
      samples.swing[n] = ox * -uy + oy * ux;
      samples.heat[n] = celsius;
      samples.since[n] = since;
      samples.begun[n] = this.begun;
      samples.move[n] = i;
      samples.tool[n] = controls.tool;
      const { time, fan } = controls;
      settle(this, n, { x, y, z, ux, uy, layer, v: next, firstLayer, time, fan });
      const rests = samples.support[n]! > 0;
      // Over air there is nothing to press a strand flat against.
      const half = (rests ? askedWidth : Math.min(askedWidth, this.bore)) / 2;
      const laid = { time, heat: celsius, rests, stroke: i };
      surface.lay({ x, y, z, ux, uy }, ds, half, laid);
      controls.pass(dt);
      v = next;
    }
    this.vx = ux * exit;
    this.vy = uy * exit;
  }
}

const NO_SHIFT = { x: 0, y: 0 };

function sampleCount({ moves }: Trace): number {
  let count = 0;
  for (let i = 1; i < moves.count; i++) {
    if (moves.kind[i] !== MOVE.extrude) continue;
    const length = Math.hypot(
      moves.x[i]! - moves.x[i - 1]!,
      moves.y[i]! - moves.y[i - 1]!,
      moves.z[i]! - moves.z[i - 1]!,
    );
    count += Math.max(1, Math.ceil(length / SAMPLE));
  }
  return count + 1;
}

/** Way from each sample to the next corner, from the last one backward. */
function markUntil({ count, since, until }: Samples): void {
  let way = Infinity;
  for (let n = count - 1; n >= 0; n--) {
    until[n] = way;
    // At the first sample of a straight run the corner lies just before it.
    way = since[n]! <= SAMPLE * 1.01 ? 0 : way + SAMPLE;
  }
}
