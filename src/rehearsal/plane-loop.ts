/** The whole loop of a grid: one print on an understudy, scored by its eye, and both settings told from it. */

import type { Bench } from '../core/bench/bench';
import type { Setting } from '../core/bench/settings';
import { LayingMemory } from '../core/deposit/deposit';
import { climb, type Range } from '../core/ladders/climb';
import { makeLadder, makeOf, type Made } from '../core/ladders/make';
import { singleFor } from '../core/ladders/registry';
import type { LadderKind } from '../core/ladders/types';
import { printingMinutes, timesOf } from '../core/motion/times';
import { tidy } from '../core/numbers';
import { valuesOn } from '../core/plan/axes';
import { findValue } from '../core/reading/find-value';
import { AS_GOOD } from '../core/reading/find-plane';
import type { Finding } from '../core/reading/finding';
import { defaultWeights } from '../core/reading/gather';
import { BEST_SCORE } from '../core/reading/types';
import { ok, type Result } from '../core/result';
import { scored, trueQuality } from '../understudy/eye';
import { printTrace } from '../understudy/print';
import { drawTruths, type Truths } from '../understudy/truths';
import { withFound } from './found-before';
import { peakOf } from './loop';
import { placesOf } from './places';

/** What one setting of a grid came to. */
export type SideTrial = {
  setting: Setting;
  truth: number;
  step: number;
  value: number | null;
  range: [number, number] | null;
};
export type PlaneTrial = {
  seed: number;
  verdict: Finding['verdict'];
  sides: [SideTrial, SideTrial];
  minutes: number;
  grams: number;
};

/** Time and plastic. */
export type Cost = { minutes: number; grams: number };

export class PlaneLoop {
  private readonly memory = new LayingMemory();
  private readonly made = new Map<string, Made[]>();

  private constructor(
    private readonly kind: LadderKind,
    private readonly bench: Bench,
    /** What the grid takes, and the ladders of its two settings that it stands for. */
    readonly cost: Cost,
    readonly singles: Cost | null,
  ) {}

  /** @returns problems for a kind that this bench cannot print */
  static on(kind: LadderKind, bench: Bench): Result<PlaneLoop> {
    const made = makeOf(kind, {}, bench);
    if (!made.ok) return made;
    const alone = kind.finds.map((setting) => singleFor(setting));
    const costs = alone.flatMap((one) => {
      const single = one && makeLadder(one.id, {}, bench);
      return single?.ok ? [costOf(single.value)] : [];
    });
    const singles = costs.length < 2 ? null : costs.reduce(plus);
    return ok(new PlaneLoop(kind, bench, costOf(made.value), singles));
  }

  /** One print, read once. */
  trial(seed: number): Result<PlaneTrial> {
    const truths = drawTruths(this.bench, seed);
    const bench = withFound(this.bench, this.kind.standsOn, truths);
    const made = this.make('usual', bench, [{}]);
    if (!made.ok) return made;
    const [{ trace, plan, audit }] = made.value as [Made];
    const printed = printTrace(trace, bench, truths);
    const names = this.kind.criteria.map(({ name }) => name);
    const { scores } = scored(printed, placesOf(plan), names, Math.imul(seed, 31) + 1);
    const found = findValue(this.kind, plan, bench, { readings: [scores] });
    if (!found.ok) return found;
    const truth = this.truth(truths, bench);
    if (!truth.ok) return truth;
    const { values, verdict } = found.value;
    const sides = plan.axes.map(({ setting, steps }, i): SideTrial => {
      const all = steps.map(({ set }) => set[setting!]!);
      const step = tidy(Math.abs(all.at(-1)! - all[0]!) / (all.length - 1));
      const { value, range } = values[i]!;
      return { setting: setting!, truth: truth.value[i]!, step, value, range };
    }) as PlaneTrial['sides'];
    const minutes = printed.seconds / 60;
    return ok({ seed, verdict, sides, minutes, grams: audit.grams });
  }

  /**
   * The joint best without any error: by grids twice as fine, and no eye. Columns of the finer grid come in two prints,
   * since a bed has no room for twice as many.
   */
  truth(drawn: Truths, bench = this.bench): Result<[number, number]> {
    const made = this.make('fine', bench, fineSpecs(this.kind, this.bench));
    if (!made.ok) return made;
    const truths = { ...drawn, bed: { ...drawn.bed, tiltX: 0, tiltY: 0 } };
    const weights = defaultWeights(this.kind);
    const cells = made.value.flatMap(({ trace, plan }) => {
      const heights = trueQuality(printTrace(trace, bench, truths), placesOf(plan), weights);
      const [as, bs] = plan.axes.map((axis) => valuesOn(axis, plan)) as [number[], number[]];
      return heights.map((height, i) => ({ height, a: as[i]!, b: bs[i]! }));
    });
    const best = cells.reduce((one, other) => (other.height > one.height ? other : one));
    const enough = best.height - AS_GOOD * BEST_SCORE;
    const { rule, finds } = this.kind;
    const least = rule.kind === 'plane' ? rule.least : [];
    let { a, b } = best;
    if (!least.includes(finds[0])) a = peakAlong(cells, best, 'a', 'b');
    if (!least.includes(finds[1]!)) b = peakAlong(cells, best, 'b', 'a');
    // What costs something is wanted no larger than it must be.
    for (const one of cells) {
      if (one.height < enough) continue;
      if (least.includes(finds[1]!) && one.a === best.a && one.b < b) b = one.b;
    }
    for (const one of cells)
      if (least.includes(finds[0]) && one.height >= enough && one.b === b && one.a < a) a = one.a;
    return ok([a, b]);
  }

  private make(name: string, bench: Bench, specs: object[]): Result<Made[]> {
    const key = JSON.stringify([name, bench.tuned]);
    const known = this.made.get(key);
    if (known) return ok(known);
    const all: Made[] = [];
    for (const spec of specs) {
      const made = makeOf(this.kind, { ...spec }, bench, this.memory);
      if (!made.ok) return made;
      all.push(made.value);
    }
    // Grids of many machines would fill the memory.
    if (this.made.size > MOST_KEPT) this.made.clear();
    this.made.set(key, all);
    return ok(all);
  }
}

type Cell = { height: number; a: number; b: number };

/** Where a plane is highest along one setting, through its best cell: between the rows by a parabola. */
function peakAlong(cells: readonly Cell[], best: Cell, of: 'a' | 'b', over: 'a' | 'b'): number {
  const line = cells.filter((one) => one[over] === best[over]).sort((p, q) => p[of] - q[of]);
  return peakOf(
    line.map((one) => one[of]),
    line.map(({ height }) => height),
  );
}

/** Grids kept ready. */
const MOST_KEPT = 4;

const costOf = ({ trace, motion, audit }: Made): Cost => ({
  minutes: printingMinutes(timesOf(trace, motion)),
  grams: audit.grams,
});
const plus = (a: Cost, b: Cost): Cost => ({
  minutes: a.minutes + b.minutes,
  grams: a.grams + b.grams,
});

/** The usual grid and one whose columns lie between its own, both with rows twice as close. */
function fineSpecs(kind: LadderKind, bench: Bench): object[] {
  const usual = kind.defaults(bench);
  const [up, across] = kind.axes(usual, bench).map(({ setting, steps }) => {
    const values = steps.map(({ set }) => set[setting!]!);
    const step = tidy((values.at(-1)! - values[0]!) / (values.length - 1));
    return { setting: setting!, from: values[0]!, to: values.at(-1)!, step };
  }) as [Range & { setting: Setting }, Range & { setting: Setting }];
  const rows = { from: up.from, to: up.to, step: Math.abs(up.step) / 2 };
  const columns = { from: across.from, to: across.to, step: Math.abs(across.step) };
  const half = across.step / 2;
  const between = { ...columns, from: tidy(columns.from + half), to: tidy(columns.to - half) };
  return [columns, between]
    .filter((range) => climb(range).length > 0)
    .map((range) => kind.moved(usual, { [up.setting]: rows, [across.setting]: range }));
}
