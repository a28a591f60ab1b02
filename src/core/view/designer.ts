/** What the designer shows of a ladder, and a look into any layer of the last one. */

import { LayingMemory } from '../deposit/deposit';
import type { Bench } from '../bench/bench';
import { inForce } from '../bench/in-force';
import { short } from '../numbers';
import { askedOf, makeLadder, stepTimes, type Made } from '../ladders/make';
import { kindOf } from '../ladders/registry';
import { askedFor } from '../gcode/asked';
import { leadAxis } from '../plan/axes';
import { marksSaid } from '../plan/marks';
import type { Plan, Rung } from '../plan/plan';
import type { Warning } from '../ladders/types';
import { reachOf, type Reach } from '../motion/reach';
import { printingMinutes, timesOf, type Times } from '../motion/times';
import type { Problem } from '../result';
import { settingInfo, type Setting } from '../bench/settings';
import { layerView, type LayerView } from './layer-view';
import { layersIn } from './layers';
import { quantityOf, rangeOf } from './quantity';
import { ladderPicture, type Picture } from './ladder-picture';
import type { Cells } from './cells';
import type { Strips } from './strips';
import { onSharedAxis, type Named } from './shared-axis';

export type DesignView = {
  ok: true;
  warnings: Warning[];
  rungs: (Named & { command: string; settles: number; reach: Reach })[];
  /** What the numbers on the print stand for, where they are not the values themselves. */
  marks: string | null;
  /** What the file holds while the rungs are printed, and what it puts back; null for what stands as it is. */
  conditions: { title: string; value: string; back: string | null }[];
  view: 'front' | 'top';
  /** Whether a speed is asked for, that strokes should reach. */
  asksSpeed: boolean;
  height: number;
  stretch: number;
  layerHeight: number;
  layers: number;
  times: Times;
  /** Of printing, heating left out. */
  minutes: number;
  grams: number;
  /** Filament, mm. */
  filament: number;
  reach: Reach;
  file: string;
  picture: Picture;
  /** Of a grid: where its cells lie on the picture. */
  cells: Cells | null;
  /** Of a map: where the strips of its cells lie. */
  strips: Strips | null;
};
export type DesignProblems = { ok: false; problems: (Problem | Warning)[]; warnings: Warning[] };

export class Designer {
  private readonly memory = new LayingMemory();
  private made: Made | null = null;
  private layers: ReturnType<typeof layersIn> = [];
  private lines: string[] = [];

  /** Makes a ladder as it would be handed out; a ladder that cannot be made keeps the last one for looking. */
  design(
    kindId: string,
    spec: Record<string, number>,
    bench: Bench,
    pxPerMm: number,
  ): DesignView | DesignProblems {
    const made = makeLadder(kindId, spec, bench, this.memory);
    if (!made.ok)
      return { ok: false, problems: made.problems, warnings: softWarnings(kindId, spec, bench) };
    this.made = made.value;
    const { plan, trace, motion, audit, text, warnings } = made.value;
    this.lines = text.split('\n');
    this.layers = layersIn(trace);
    const times = timesOf(trace, motion);
    const reach = reachOf(trace, motion, plan.rungs, askedOf(plan.spec, bench));
    const seconds = stepTimes(plan, motion, trace);
    const stands = onSharedAxis(plan);
    const climbing = leadAxis(plan)?.setting;
    const settlesS = climbing ? settingInfo(climbing).settlesS : 0;
    return {
      ok: true,
      warnings,
      marks: marksSaid(plan.axes),
      conditions: conditionsOf(plan),
      rungs: stands.rungs.map((rung, i) => ({
        ...rung,
        command: this.lines[rung.line - 1]!,
        settles: settledAfter(rung, seconds[i]!, settlesS),
        reach: reach.rungs[i]!,
      })),
      view: stands.view,
      cells: stands.cells,
      strips: stands.strips,
      asksSpeed: 'speed' in plan.spec,
      height: stands.height,
      stretch: stands.stretch,
      layerHeight: plan.layerHeight,
      layers: this.layers.length,
      times,
      minutes: printingMinutes(times),
      grams: audit.grams,
      filament: audit.filament,
      reach: reach.all,
      file: plan.file,
      picture: ladderPicture(trace, plan, pxPerMm),
    };
  }

  /** Strokes and lines of one layer of the last ladder, or null when there is none. */
  layer(index: number): LayerView | null {
    if (!this.made) return null;
    const { trace, motion, plan } = this.made;
    const strand = plan.bench.filament.diameter;
    const values = quantityOf('rung', { trace, motion, asked: askedFor(plan), strand });
    const scale = rangeOf(values);
    return layerView(trace, this.layers, index, this.lines, { strand, values, scale });
  }
}

function conditionsOf({ held, bench }: Plan): DesignView['conditions'] {
  const before = inForce(bench);
  return (Object.entries(held) as [Setting, number][]).map(([setting, value]) => {
    const { title, unit } = settingInfo(setting);
    const said = (one: number) => `${short(one)} ${unit}`;
    // What is held as it stands comes back to nothing else.
    return {
      title,
      value: said(value),
      back: value === before[setting] ? null : said(before[setting]),
    };
  });
}

/** Height of a rung, mm, that prints while its value still drifts. */
const settledAfter = ({ z }: Rung, seconds: number, settlesS: number): number =>
  (z.to - z.from) * Math.min(1, settlesS / Math.max(seconds, 1));

/** Warnings that can be said although the ladder cannot be made, so that offered ranges stay in reach. */
function softWarnings(kindId: string, spec: Record<string, number>, bench: Bench): Warning[] {
  const kind = kindOf(kindId);
  const parsed = kind.ok ? kind.value.spec.safeParse(spec) : null;
  if (!kind.ok || !parsed?.success) return [];
  return kind.value.check(parsed.data, bench).filter(({ grade }) => grade !== 'stop');
}
