/** A file that is looked through: read once, then asked for what a screen shows of it. */

import type { Bench } from '../bench/bench';
import { tunedMachine } from '../bench/in-force';
import { NOTHING_ASKED } from '../gcode/confirm';
import { audit, type Audit } from '../gcode/audit';
import { Lines } from '../gcode/lines';
import { recognise, type Told } from '../gcode/recognise';
import { strangeIn } from '../gcode/stranger';
import { MOVE, type Trace } from '../gcode/trace';
import { askedFor } from '../gcode/asked';
import { parsePlan, type Plan } from '../plan/plan';
import { planMotion, type Motion } from '../motion/plan-motion';
import { timesOf, type Times } from '../motion/times';
import type { Problem } from '../result';
import { beadsOf, strokeWidth, type Beads } from './beads';
import { heightTracks, type Track } from './heights';
import { layerOf, layersIn, type LayerSpan } from './layers';
import { lengthOf, quantityOf, QUANTITY_NAMES, rangeOf, type Quantity } from './quantity';

/** Largest file that is opened, bytes. */
export const LARGEST_OPENED = 200 * 1024 * 1024;

export type LayerColumns = {
  z: Float32Array<ArrayBuffer>;
  thickness: Float32Array<ArrayBuffer>;
  /** Line of the first stroke. */
  line: Uint32Array<ArrayBuffer>;
  /** Printing time, s, travel included. */
  seconds: Float32Array<ArrayBuffer>;
  /** Filament, mm. */
  filament: Float32Array<ArrayBuffer>;
};

export type Scale = { low: number; high: number };

export type Overview = {
  bytes: number;
  lines: number;
  moves: number;
  strokes: number;
  audit: Audit;
  times: Times;
  layers: LayerColumns;
  tracks: Track[];
  /** What strokes can be coloured by, with the ends of its scale. */
  scales: Partial<Record<Quantity, Scale>>;
  /** The plan that the file carries. */
  plan: Plan | null;
  planProblems: Problem[];
  /** Lines that set a rung. */
  rungLines: number[];
};

/** One move, as the line under the cursor tells it. */
export type MoveFacts = {
  move: number;
  line: number;
  layer: number;
  kind: number;
  from: [x: number, y: number, z: number];
  to: [x: number, y: number, z: number];
  /** mm. */
  length: number;
  width: number | null;
  /** Filament fed, mm. */
  filament: number;
  /** mm/s: asked for, and reached. */
  asked: number;
  reached: number;
  /** Seconds of motion from the start of the file. */
  after: number;
};

export class OpenedFile {
  readonly lines: Lines;
  private readonly motion: Motion;
  private readonly layers: LayerSpan[];
  private readonly plan: Plan | null = null;
  private readonly planProblems: Problem[] = [];
  /** The colouring asked for last. */
  private coloured: { name: Quantity; values: Float32Array; scale: Scale | null } | null = null;

  /** @param trace of the same bytes, read with the bench's dialect */
  constructor(
    bytes: Uint8Array,
    private readonly trace: Trace,
    private readonly bench: Bench,
  ) {
    this.lines = new Lines(bytes);
    if (trace.planText !== null) {
      const parsed = parsePlan(trace.planText);
      if (parsed.ok) this.plan = parsed.value;
      else this.planProblems = parsed.problems;
    }
    this.motion = planMotion(trace, tunedMachine(bench));
    this.layers = layersIn(trace);
  }

  overview(): Overview {
    const { trace, motion, plan } = this;
    const scales: Overview['scales'] = {};
    for (const name of QUANTITY_NAMES) {
      const range = rangeOf(this.valuesOf(name));
      if (range) scales[name] = range;
    }
    this.coloured = null;
    let strokes = 0;
    for (const kind of trace.moves.kind) if (kind === MOVE.extrude) strokes++;
    return {
      bytes: trace.bytes,
      lines: trace.lines,
      moves: trace.moves.count,
      strokes,
      audit: this.checked(),
      times: timesOf(trace, motion),
      layers: this.layerColumns(),
      tracks: heightTracks(trace),
      scales,
      plan,
      planProblems: this.planProblems,
      rungLines: plan?.rungs.map(({ line }) => line) ?? [],
    };
  }

  /** What the file would do; of one from elsewhere also what to know before it is trusted. */
  private checked(): Audit {
    const { trace, bench, plan, lines } = this;
    const told = audit(trace, bench, plan ? askedFor(plan) : undefined);
    if (plan) return told;
    return { ...told, findings: [...told.findings, ...strangeIn(trace, lines, bench, told)] };
  }

  private layerColumns(): LayerColumns {
    const { trace, motion, layers } = this;
    const columns: LayerColumns = {
      z: Float32Array.from(layers, ({ z }) => z),
      thickness: Float32Array.from(layers, ({ thickness }) => thickness),
      line: new Uint32Array(layers.length),
      seconds: new Float32Array(layers.length),
      filament: new Float32Array(layers.length),
    };
    layers.forEach(({ from, to }, layer) => {
      let [seconds, filament] = [0, 0];
      for (let i = from; i <= to; i++) {
        seconds += motion.time[i]!;
        filament += trace.moves.e[i]!;
      }
      columns.line[layer] = trace.moves.line[from]!;
      columns.seconds[layer] = seconds;
      columns.filament[layer] = filament;
    });
    return columns;
  }

  private valuesOf(name: Quantity): Float32Array {
    const { trace, motion, bench, plan } = this;
    const strand = bench.filament.diameter;
    return quantityOf(name, {
      trace,
      motion,
      asked: plan ? askedFor(plan) : NOTHING_ASKED,
      strand,
    });
  }

  /** Strokes and travels of layers `first` to `last`, coloured by a quantity. */
  beads(first: number, last: number, name: Quantity): Beads {
    if (this.coloured?.name !== name) {
      const values = this.valuesOf(name);
      this.coloured = { name, values, scale: rangeOf(values) };
    }
    const { values, scale } = this.coloured;
    const within = (layer: number) => Math.max(0, Math.min(this.layers.length - 1, layer));
    const range = { first: within(first), last: within(last) };
    return beadsOf(this.trace, this.layers, range, this.bench.filament.diameter, values, scale);
  }

  /** First move that a line makes, or the next one after it; null at the end of the file. */
  moveAtLine(line: number): MoveFacts | null {
    const { line: lines, count } = this.trace.moves;
    let low = 0;
    let high = count;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (lines[middle]! < line) low = middle + 1;
      else high = middle;
    }
    return this.move(low);
  }

  move(i: number): MoveFacts | null {
    const { moves } = this.trace;
    if (!(i >= 0 && i < moves.count)) return null;
    const p = Math.max(0, i - 1);
    const layer = layerOf(this.layers, i);
    let after = 0;
    for (let k = 0; k < i; k++) after += this.motion.time[k]!;
    const kind = moves.kind[i]!;
    return {
      move: i,
      line: moves.line[i]!,
      layer,
      kind,
      from: [moves.x[p]!, moves.y[p]!, moves.z[p]!],
      to: [moves.x[i]!, moves.y[i]!, moves.z[i]!],
      length: lengthOf(this.trace, i),
      width:
        kind === MOVE.extrude && layer >= 0
          ? strokeWidth(this.trace, i, this.bench.filament.diameter, this.layers[layer]!.thickness)
          : null,
      filament: moves.e[i]!,
      asked: moves.speed[i]!,
      reached: this.motion.top[i]!,
      after,
    };
  }

  /** What the file tells about a machine. */
  told(): Told[] {
    return recognise(this.lines, this.trace, this.bench.machine.dialect);
  }
}
