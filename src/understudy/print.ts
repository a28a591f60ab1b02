/** Prints a file: takes nothing but its text, and a machine with its hidden truths. */

import { tunedMachine } from '../core/bench/in-force';
import type { Point } from '../core/bench/bed';
import type { Bench } from '../core/bench/bench';
import { printBox } from '../core/gcode/print-box';
import { readText } from '../core/gcode/read';
import { CHANGES } from '../core/dialect/changes';
import { MOVE, type Trace } from '../core/gcode/trace';
import { planMotion, type Motion } from '../core/motion/plan-motion';
import { layersIn } from '../core/view/layers';
import { seeded, normal } from '../core/random';
import { roundArea, beadWidth } from '../core/deposit/bead';
import { CELL, Ground } from './ground';
import { Heater } from './heater';
import { Melt } from './melt';
import { cooled, fluidity, layerConstant, setsAfter, step, strandConstant } from './plastic';
import { Ringing, shaped } from './ringing';
import { sag } from './sag';
import { SAMPLE, samplesFor, type Samples, type Thread } from './samples';
import type { Truths } from './truths';

export type Printed = {
  samples: Samples;
  threads: Thread[];
  /** Seconds from the first line to the last, heating and all. */
  seconds: number;
  /** Filament fed, mm: as it was commanded, and as it really came past the feeder. */
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
};

/** Directions that differ by more than this are a corner. */
const CORNER_COS = Math.cos((35 * Math.PI) / 180);
/** Probes across the bore, as shares of it, by which the support of what leaves it is measured. */
const PROBES = [-0.42, -0.21, 0, 0.21, 0.42];
/** Least share of a bead that has to rest for it not to hang. */
const BRUSHES = 0.04;
/** A bead rests on what is at most this share of a layer below it. */
const TOUCHES = 0.6;
/** Scatter of a thread's melt from travel to travel, in its logarithm. */
const THREAD_SCATTER = 0.3;
/** Gaps shorter than this, mm, draw no thread that could be told from a blob. */
const SHORTEST_GAP = 1;
/** Droop of a bead that hardly rests on anything, as a multiple of the machine's own. */
const CURLS = 4;
/** A fan blows up and runs down with this time constant, s. */
const FAN_CONSTANT = 0.8;
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
  private readonly samples: Samples;
  private readonly threads: Thread[] = [];
  private readonly nozzle: Heater[];
  private readonly bed: Heater;
  private readonly heaters: Heater[];
  private readonly melts: Melt[];
  private readonly ringX: Ringing;
  private readonly ringY: Ringing;
  private readonly ground: Ground;
  private readonly thickness: Float32Array;
  private readonly strand: number;
  private readonly bore: number;
  private readonly random;
  private count = 0;
  private time = 0;
  private tool = 0;
  private fan = 0;
  private fanTarget = 0;
  private advance = 0;
  private shaperHz = 0;
  /** Commanded velocity at the end of the last move, mm/s, and feed, mm/s of filament. */
  private vx = 0;
  private vy = 0;
  private fed = 0;
  /** Ways since the last stroke, each with the melt that leaked on it, mm³. */
  private readonly ways: { from: Point; to: Point; leaked: number }[] = [];
  private begun = 0;

  constructor(
    private readonly trace: Trace,
    private readonly motion: Motion,
    bench: Bench,
    private readonly truths: Truths,
    private readonly options: PrintOptions,
  ) {
    const { machine, filament, nozzle } = bench;
    this.strand = roundArea(filament.diameter);
    this.bore = nozzle.diameter;
    this.random = seeded(truths.seed ^ 0x2545f491);
    const tools = Math.max(1, machine.extruder.tools);
    this.nozzle = Array.from({ length: tools }, () => new Heater(truths.heats.nozzle));
    if (options.brokenHeater) this.nozzle[0]!.broken = true;
    this.bed = new Heater(truths.heats.bed);
    this.heaters = [...this.nozzle, this.bed];
    this.melts = Array.from({ length: tools }, () => new Melt(truths, this.strand));
    this.ringX = new Ringing(truths.resonance.x, truths.damping.x);
    this.ringY = new Ringing(truths.resonance.y, truths.damping.y);
    const box = printBox(trace) ?? { minX: 0, minY: 0, maxX: 1, maxY: 1 };
    this.ground = new Ground({
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
    const { trace, options } = this;
    const { moves, changes } = trace;
    let filament = 0;
    let failed: string | null = null;
    let at = 0;
    const every = Math.max(1, moves.count >> 6);
    for (let i = 0; i < moves.count && !failed; i++) {
      for (; at < changes.count && changes.move[at]! <= i; at++) failed ??= this.obey(at);
      if (failed) break;
      filament += moves.e[i]!;
      this.move(i);
      if (i % every === 0) options.progress?.(i / moves.count);
    }
    for (; at < changes.count && !failed; at++) failed ??= this.obey(at);
    const { samples } = this;
    samples.count = this.count;
    markUntil(samples);
    sag(samples, this.bore, this.truths.taut);
    options.progress?.(1);
    const { threads, time, bore } = this;
    return {
      samples,
      threads,
      seconds: time,
      filament,
      came: filament * this.truths.feeds,
      bore,
      failed,
    };
  }

  /** Obeys a change of setting. @returns why the print ends here, or null */
  private obey(at: number): string | null {
    const { changes } = this.trace;
    const value = changes.value[at]!;
    const heater = this.nozzle[Math.min(changes.tool[at]!, this.nozzle.length - 1)]!;
    switch (CHANGES[changes.code[at]!]) {
      case 'nozzle':
        heater.target = value;
        break;
      case 'bed':
        this.bed.target = value;
        break;
      case 'wait-nozzle': {
        const waited = heater.wait();
        if (waited === Infinity)
          return `line ${changes.line[at]}: the nozzle does not heat; the machine has stopped.`;
        this.pass(waited, heater);
        break;
      }
      case 'wait-bed':
        this.pass(this.bed.wait(), this.bed);
        break;
      case 'dwell':
        this.pass(value, null);
        break;
      case 'fan':
        this.fanTarget = value;
        break;
      case 'advance':
        this.advance = value;
        break;
      case 'frequency':
        this.shaperHz = value;
        break;
      case 'tool':
        this.tool = Math.min(value, this.nozzle.length - 1);
        break;
    }
    return null;
  }

  /** Lets time pass for everything; `done` has had its share already. */
  private pass(seconds: number, done: Heater | null): void {
    if (!(seconds > 0)) return;
    this.time += seconds;
    for (const heater of this.heaters) if (heater !== done) heater.run(seconds);
    this.fan += (this.fanTarget - this.fan) * (1 - Math.exp(-seconds / FAN_CONSTANT));
  }

  private get melt(): number {
    return this.nozzle[this.tool]!.celsius + this.truths.sensor;
  }

  private move(i: number): void {
    const { moves } = this.trace;
    const { motion } = this;
    const kind = moves.kind[i]!;
    const seconds = motion.time[i]!;
    const melt = this.melts[this.tool]!;
    if (kind === MOVE.home || !(seconds > 0)) {
      this.vx = this.vy = 0;
      return;
    }
    if (kind === MOVE.retract || kind === MOVE.restart) {
      this.rest();
      // What comes out here stays as a blob at this place; it is no thread.
      melt.feed(moves.e[i]!, seconds, this.melt);
      this.fed = 0;
      this.pass(seconds, null);
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
    const { resonance } = this.truths;
    this.ringX.jump(dvx * shaped(resonance.x, this.shaperHz));
    this.ringY.jump(dvy * shaped(resonance.y, this.shaperHz));
  }

  private travel(i: number, ux: number, uy: number, seconds: number): void {
    const { moves } = this.trace;
    const melt = this.melts[this.tool]!;
    const entry = this.motion.entry[i]!;
    this.shake(ux * entry - this.vx, uy * entry - this.vy);
    const exit = this.exitOf(i);
    this.ringX.run((ux * (exit - entry)) / seconds, seconds);
    this.ringY.run((uy * (exit - entry)) / seconds, seconds);
    this.vx = ux * exit;
    this.vy = uy * exit;
    if (this.fed !== 0) melt.advance(-this.advance * this.fed);
    this.fed = 0;
    let leaked = melt.leak(seconds, this.melt);
    if (moves.e[i]! !== 0) leaked += melt.feed(moves.e[i]!, seconds, this.melt);
    const p = Math.max(0, i - 1);
    // A lift on the spot leaves a blob there, no thread.
    if (Math.hypot(moves.x[i]! - moves.x[p]!, moves.y[i]! - moves.y[p]!) > SAMPLE)
      this.ways.push({
        from: { x: moves.x[p]!, y: moves.y[p]! },
        to: { x: moves.x[i]!, y: moves.y[i]! },
        leaked,
      });
    this.pass(seconds, null);
    this.begun = 0;
  }

  /** Speed at the end of a move, mm/s. */
  private exitOf(i: number): number {
    const next = i + 1 < this.trace.moves.count ? this.motion.entry[i + 1]! : 0;
    return this.motion.time[i + 1]! > 0 ? next : 0;
  }

  /** What leaked over air was drawn out to a thread; over plastic it was wiped off. */
  private endTravel(z: number, layer: number): void {
    const { ways, truths } = this;
    let [through, leaked] = [0, 0];
    let first: Point | null = null;
    let last: Point | null = null;
    for (const { from, to, leaked: melt } of ways) {
      const length = Math.hypot(to.x - from.x, to.y - from.y);
      const steps = Math.max(1, Math.ceil(length / (2 * CELL)));
      for (let n = 0; n < steps; n++) {
        const share = (n + 0.5) / steps;
        const x = from.x + (to.x - from.x) * share;
        const y = from.y + (to.y - from.y) * share;
        if (this.ground.holds(x, y, z, layer)) continue;
        through += length / steps;
        leaked += melt / steps;
        first ??= { x, y };
        last = { x, y };
      }
    }
    ways.length = 0;
    // Nobody sees what hangs inside a hollow part.
    if (!first || !last || through < SHORTEST_GAP || !this.seen(first, last, z, layer)) return;
    const perMm = (leaked / through) * Math.exp(THREAD_SCATTER * normal(this.random));
    const over = Math.max(0, perMm - truths.threadHolds);
    const thick = Math.sqrt((4 * over) / Math.PI);
    this.threads.push({ from: first, to: last, z, length: through, thick });
  }

  private seen(a: Point, b: Point, z: number, layer: number): boolean {
    return this.ground.inSight((a.x + b.x) / 2, (a.y + b.y) / 2, z, layer);
  }

  private stroke(i: number, p: number, ux: number, uy: number, length: number): void {
    const { trace, motion, samples, ground, truths } = this;
    const { moves } = trace;
    const z = moves.z[i]!;
    const layer = this.thickness[i]! || 0.2;
    if (this.ways.length > 0) this.endTravel(z, layer);
    const melt = this.melts[this.tool]!;
    const perMm = moves.e[i]! / length;
    const asked = perMm * this.strand;
    const entry = motion.entry[i]!;
    const exit = this.exitOf(i);
    const [top, a] = [motion.top[i]!, motion.acceleration[i]!];
    const turn = Math.hypot(this.vx, this.vy);
    const corner =
      turn > 0 && (this.vx * ux + this.vy * uy) / turn < CORNER_COS ? true : this.begun === 0;
    this.shake(ux * entry - this.vx, uy * entry - this.vy);
    const steps = Math.max(1, Math.ceil(length / SAMPLE));
    const ds = length / steps;
    const firstLayer = z <= layer * 1.01 + 1e-6;
    const askedWidth = beadWidth(asked, layer);
    const shift = this.tool > 0 ? truths.second : NO_SHIFT;
    let v = entry;
    let since = corner || this.count === 0 ? 0 : samples.since[this.count - 1]!;
    for (let k = 0; k < steps; k++) {
      const s = (k + 1) * ds;
      const next = Math.min(
        top,
        Math.sqrt(entry * entry + 2 * a * s),
        Math.sqrt(exit * exit + 2 * a * Math.max(0, length - s)),
      );
      const dt = (2 * ds) / Math.max(v + next, 1e-3);
      const celsius = this.melt;
      const fed = perMm * next;
      // Half of the jump before and half after: within a sample speed changes steadily.
      const jump = this.advance > 0 ? (this.advance * (fed - this.fed) * truths.feeds) / 2 : 0;
      melt.advance(jump);
      this.fed = fed;
      const out = celsius < TOO_STIFF ? 0 : melt.feed(perMm * ds, dt, celsius);
      melt.advance(jump);
      const acceleration = (next - v) / dt;
      this.ringX.run(ux * acceleration, dt);
      this.ringY.run(uy * acceleration, dt);
      const [ox, oy] = [this.ringX.x, this.ringY.x];
      const x = moves.x[p]! + ux * (s - ds / 2) + ox + shift.x;
      const y = moves.y[p]! + uy * (s - ds / 2) + oy + shift.y;
      since += ds;
      this.begun += ds;
      const gap = firstLayer
        ? Math.max(0.02, layer + truths.bed.offset + truths.bed.tiltX * x + truths.bed.tiltY * y)
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
      samples.tool[n] = this.tool;
      this.settle(n, { x, y, z, ux, uy, layer, v: next, firstLayer });
      const rests = samples.support[n]! > 0;
      // Over air there is nothing to press a strand flat against.
      const half = (rests ? askedWidth : Math.min(askedWidth, this.bore)) / 2;
      const laid = { time: this.time, heat: celsius, rests, stroke: i };
      ground.lay({ x, y, z, ux, uy }, ds, half, laid);
      this.pass(dt, null);
      v = next;
    }
    this.vx = ux * exit;
    this.vy = uy * exit;
  }

  /** What becomes of the plastic where it lies: support, bond, shine, droop. */
  private settle(
    n: number,
    at: {
      x: number;
      y: number;
      z: number;
      ux: number;
      uy: number;
      layer: number;
      v: number;
      firstLayer: boolean;
    },
  ): void {
    const { samples, ground, truths, fan, bore } = this;
    const { x, y, z, ux, uy, layer, v, firstLayer } = at;
    const width = samples.asked[n]!;
    let rests = 0;
    if (firstLayer) rests = 1;
    else {
      const least = z - layer * (1 + TOUCHES);
      for (const probe of PROBES) {
        const across = probe * bore;
        rests += ground.under(x - uy * across, y + ux * across, z, least) / PROBES.length;
      }
      // A bead that only brushes what is below hangs all the same.
      if (rests < BRUSHES) rests = 0;
    }
    // A bead that rests on nothing still holds by its flank to one beside it that does.
    const flank =
      rests === 0 &&
      (ground.held(x - uy * width, y + ux * width, z) ||
        ground.held(x + uy * width, y - ux * width, z));
    const support = flank ? FLANK : rests;
    const heat = samples.heat[n]!;
    const last = ground.last(x, y);
    const below = cooled(last.heat, this.time - last.at, layerConstant(fan));
    samples.support[n] = support;
    // Chains of two beads grow into each other while the seam is hot; a quarter of the heat comes from below
    // (R. Wool, K. O'Connor, J. Appl. Phys. 52, 1981: healing of polymer seams).
    const seam = heat + 0.25 * (below - 45) - 4 * fan;
    samples.bond[n] = firstLayer ? 1 : step(seam, truths.bondsAt, 5);
    // Slow, hot strands have time to become smooth before they set.
    samples.shine[n] = step(heat - 0.05 * (v - 25), truths.shinesAt, 4.5);
    const eased = fluidity(heat, truths.works);
    // Cold melt comes in pulses, hot melt flows out of its place, most on plastic that is still warm.
    const warm = 1 + Math.max(0, below - truths.soft) / 40;
    samples.rough[n] = Math.hypot(0.006, 0.012 / eased, 0.012 * eased * warm);
    if (support > 0 && support < 0.9) {
      const curl = truths.droops * CURLS * (1 - support) ** 2.5 * eased * (1.6 - 0.6 * fan) * warm;
      samples.drop[n] = curl;
    } else if (support === 0) {
      // Sag for a strand of 20 mm; its real length is known at its end.
      const seconds = setsAfter(heat, truths.soft, strandConstant(fan));
      const usual = setsAfter(truths.works, truths.soft, strandConstant(1));
      samples.drop[n] = truths.sags * eased * (seconds / usual) * strandPace(v, truths.strandPace);
    }
  }
}

/** Support of a bead that holds by its flank alone. */
const FLANK = 0.05;

/**
 * How pace changes the sag of a strand: slow ones stay soft under the nozzle for longer, which goes with 1/v, fast
 * ones are dragged off their anchor, which goes with v; 1 at the pace of usual bridges.
 */
const strandPace = (v: number, best: number): number => {
  const pull = (speed: number) => speed / best + best / speed;
  return pull(Math.max(v, 1)) / pull(USUAL_BRIDGE);
};
const USUAL_BRIDGE = 30;

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
