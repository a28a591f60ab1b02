/** A sliced file on the bench: opened once, then asked for what a screen shows of each wish. */

import type { Bench } from '../bench/bench';
import { tunedMachine } from '../bench/in-force';
import { settingInfo, type Setting } from '../bench/settings';
import { beadWidthOf } from '../deposit/conditions';
import { audit } from '../gcode/audit';
import { printBox } from '../gcode/print-box';
import type { Remark } from '../gcode/remark';
import { strangeIn } from '../gcode/stranger';
import type { Trace } from '../gcode/trace';
import { climbEnds, usualClimb } from '../ladders/graft/kind';
import { planMotion } from '../motion/plan-motion';
import type { Way } from '../plan/plan';
import type { Problem } from '../result';
import { drawElevation, shadeElevation, type Elevation } from '../view/elevation';
import { frameOfStrokes, type Picture } from '../view/ladder-picture';
import { lineFor } from './changes';
import { atLayers, crossingsIn, sectionFinder } from './crossings';
import { wishFaults } from './faults';
import { obstaclesFor } from './graft';
import type { Found } from './obstacles';
import { blockLines } from './own-blocks';
import { CLIMBS, type Climbs, type Wish } from './recipe';
import { sectionsIn, type Candidate } from './sections';
import { sourceOf, type Source } from './source';
import { waysOf } from './ways';

/** Pixels a millimetre of the drawing. */
const PX_PER_MM = 6;
/** Lines of a block that are shown. */
const MOST_SHOWN = 80;

/** One thing that can climb in this file, on this machine. */
export type Offered = {
  setting: Climbs;
  ways: Way[];
  usual: { from: number; to: number; step: number };
  ends: { min: number; max: number };
};

export type Opened = {
  lines: number;
  /** Size of the print from the front, mm. */
  height: number;
  width: number;
  candidates: Candidate[];
  /** Layers from below: height, mm, and plastic as a share of the most. */
  strip: { top: Float64Array<ArrayBuffer>; plastic: Float32Array<ArrayBuffer> };
  offered: Offered[];
  remarks: Remark[];
  /** What the file does before and after its print, and what the bench would. */
  blocks: { name: 'start' | 'end'; now: string[]; own: string[] }[];
};

export type Tried = {
  picture: Picture;
  /** Where each section really begins and ends, mm, what sets it, and before which line. */
  sections: {
    from: number;
    to: number;
    command: string;
    line: number;
    /** Height at its foot, mm, that prints while the value still drifts. */
    settles: number;
  }[];
  /** Sections that print in less than twice the time that what climbs takes to settle. */
  hasty: number;
  obstacles: Found[];
  problems: Problem[];
};

export class Workbench {
  private readonly source: Source;
  private readonly elevation: Elevation;
  private readonly height: number;
  private readonly layer: number;
  /** Printing time of each layer, s. */
  private readonly seconds: Float64Array;

  constructor(
    name: string,
    bytes: Uint8Array,
    private readonly trace: Trace,
    private readonly bench: Bench,
  ) {
    this.source = sourceOf(name, bytes, trace);
    const { strata } = this.source;
    this.height = Math.max(1, strata.top.at(-1) ?? 1);
    const thick = [...strata.thickness].sort((a, b) => a - b);
    this.layer = thick[thick.length >> 1] ?? 0.2;
    this.seconds = layerSeconds(trace, strata.top, bench);
    const box = printBox(trace, 0);
    const frame = box
      ? frameOfStrokes(box.minX, box.maxX, this.height)
      : { minX: 0, maxX: 1, height: 1 };
    const bead = beadWidthOf(bench.nozzle.diameter);
    // Heights stand where values would: they are told apart into sections later.
    this.elevation = drawElevation(
      trace,
      frame,
      this.layer,
      bead,
      (i) => trace.moves.z[i]!,
      PX_PER_MM,
    );
  }

  opened(): Opened {
    const { trace, bench, source } = this;
    const { strata } = source;
    const { candidates } = sectionsIn(strata);
    const count = candidates[0]?.count ?? 6;
    const most = strata.traits.plastic.reduce((a, b) => Math.max(a, b), 1e-9);
    const told = audit(trace, bench);
    const end = crossingsIn(trace, []).end;
    const spans = blockLines(trace, end);
    return {
      lines: source.lines.count,
      height: this.height,
      width: this.elevation.width / this.elevation.pxPerMm,
      candidates,
      strip: {
        top: Float64Array.from(strata.top),
        plastic: Float32Array.from(strata.traits.plastic, (one) => one / most),
      },
      offered: CLIMBS.flatMap((setting): Offered[] => {
        const ways = waysOf(setting, source, bench);
        if (ways.length === 0) return [];
        const usual = usualClimb(setting, bench, count);
        return [{ setting, ways, usual, ends: climbEnds(bench)[setting] }];
      }),
      remarks: [...strangeIn(trace, source.lines, bench, told), ...told.findings],
      blocks: (['start', 'end'] as const).map((name) => {
        const [from, to] = spans[name];
        const own = name === 'start' ? bench.machine.startBlock : bench.machine.endBlock;
        return {
          name,
          now: source.lines.some(from, Math.min(MOST_SHOWN, Math.max(0, to - from + 1))),
          own: own.split('\n'),
        };
      }),
    };
  }

  /** How much of a section prints while its value still drifts, and whether that is too much of it. */
  private drift(from: number, to: number, settlesS: number): { height: number; hasty: boolean } {
    const { top } = this.source.strata;
    let [seconds, height] = [0, 0];
    for (let i = 0; i < top.length; i++) {
      if (top[i]! <= from + 1e-6 || top[i]! > to + 1e-6) continue;
      if (seconds < settlesS) height = top[i]! - from;
      seconds += this.seconds[i]!;
    }
    return { height, hasty: settlesS > 0 && seconds < 2 * settlesS };
  }

  /** What a wish would come to. Nothing is written. */
  tried(wish: Wish): Tried {
    const { trace, bench, source } = this;
    const { strata } = source;
    const from = atLayers(
      trace,
      strata,
      wish.rows.map((row) => row.from),
    );
    const { crossings } = crossingsIn(trace, from);
    const lead = CLIMBS.find((one) => wish.rows.some(({ set }) => set[one] !== undefined));
    const settlesS = lead ? settingInfo(lead).settlesS : 0;
    let hasty = 0;
    const sections = wish.rows.map(({ set }, i) => {
      const drift = this.drift(from[i]!, from[i + 1] ?? this.height, settlesS);
      if (drift.hasty) hasty++;
      const crossing = crossings.find(({ section }) => section === i);
      return {
        from: from[i]!,
        to: from[i + 1] ?? this.height,
        command: commandOf(set, wish, bench),
        line: crossing?.line ?? 0,
        settles: drift.height,
      };
    });
    const values = wish.rows.map(({ set }) => (lead ? (set[lead] ?? NaN) : NaN));
    const sectionOf = sectionFinder(from);
    const value = this.elevation.value.map((z) => (z === z ? (values[sectionOf(z)] ?? NaN) : NaN));
    const rgba = shadeElevation({ ...this.elevation, value }, values, this.layer);
    const { width, height, pxPerMm } = this.elevation;
    const faults = wishFaults(source, wish, bench);
    return {
      picture: { width, height, pxPerMm, rgba },
      sections,
      hasty,
      obstacles: obstaclesFor(source, wish),
      problems: faults ? faults.problems : [],
    };
  }
}

/** Printing time by the height at which it passes, s. */
function layerSeconds(trace: Trace, top: Float64Array, bench: Bench): Float64Array {
  const { time } = planMotion(trace, tunedMachine(bench));
  const seconds = new Float64Array(top.length);
  const at = new Map([...top].map((z, i) => [Math.round(1000 * z), i]));
  const { count, z } = trace.moves;
  let layer = 0;
  for (let i = 0; i < count; i++) {
    layer = at.get(Math.round(1000 * z[i]!)) ?? layer;
    seconds[layer]! += time[i]!;
  }
  return seconds;
}

/** The commands of a row in short; what is written into the moves has none. */
function commandOf(set: Wish['rows'][number]['set'], { ways }: Wish, bench: Bench): string {
  const said = (Object.entries(set) as [Setting, number][]).flatMap(([setting, value]) => {
    if (ways[setting] === 'moves') return [];
    return lineFor(setting, value, bench) ?? [];
  });
  return said.join(' · ');
}
