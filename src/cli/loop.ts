/** `ash loop`: design, print on the understudy, read, find, for many hidden machines, and how well it went. */

import type { Command } from 'commander';
import type { Bench } from '../core/bench/bench';
import { MACHINES, type MachinePreset } from '../core/bench/presets';
import { makeLadder, type Made } from '../core/ladders/make';
import { kindOf } from '../core/ladders/registry';
import type { LadderKind } from '../core/ladders/types';
import { quantile, short } from '../core/numbers';
import { defaultWeights, findBest, type Earlier, type Finding } from '../core/reading/find';
import { fail, ok, problem, type Result } from '../core/result';
import { SETTINGS } from '../core/settings';
import { scored, trueQuality } from '../understudy/eye';
import { printTrace } from '../understudy/print';
import { drawTruths, type Truths } from '../understudy/truths';
import { demoBench } from '../understudy/understudies';
import { must, print, readBench } from './io';

type Given = {
  machine: MachinePreset;
  bench?: string;
  seeds: string;
  json?: true;
};

/** What one hidden machine brought. */
export type Trial = {
  seed: number;
  truth: number;
  verdict: Finding['verdict'];
  value: number | null;
  range: [number, number] | null;
  /** After one more ladder, refined around the first finding. */
  refined: number | null;
  refinedRange: [number, number] | null;
  /** Ladders printed before the first value, those that were moved included. */
  ladders: number;
  minutes: number;
  grams: number;
};

export function addLoop(program: Command): void {
  program
    .command('loop <kind>')
    .description('the whole loop on simulated machines with hidden truths; how often it finds them')
    .option('--machine <name>', `one of ${Object.keys(MACHINES).join(', ')}`, 'heron')
    .option('--bench <file>', 'a bench of your own instead, as JSON')
    .option('--seeds <range>', 'seeds of the hidden machines', '1..20')
    .option('--json', 'as JSON')
    .action((id: string, given: Given) => {
      const kind = must(kindOf(id));
      const bench = given.bench ? must(readBench(given.bench)) : must(benchNamed(given.machine));
      const seeds = must(seedsOf(given.seeds));
      const loop = new Loop(kind, bench);
      const trials = seeds.map((seed) => {
        const trial = loop.trial(seed);
        if (!given.json) print(trialLine(trial, kind));
        return trial;
      });
      if (given.json) print(JSON.stringify({ kind: id, trials, ...sums(trials, loop.step) }));
      else for (const line of summary(trials, kind, loop.step)) print(line);
    });
}

export function benchNamed(name: string): Result<Bench> {
  if (!(name in MACHINES))
    return fail(
      problem(
        '--machine',
        `There is no machine "${name}".`,
        `Name one of ${Object.keys(MACHINES).join(', ')}.`,
      ),
    );
  return ok(demoBench(name as MachinePreset));
}

const MOST_SEEDS = 10_000;

export function seedsOf(text: string): Result<number[]> {
  const [, first, last] = /^(\d+)(?:\.\.(\d+))?$/.exec(text) ?? [];
  const [from, to] = [Number(first), Number(last ?? first)];
  if (!first || to < from || to - from >= MOST_SEEDS)
    return fail(
      problem(
        '--seeds',
        `"${text}" is no range of at most ${MOST_SEEDS} seeds.`,
        'Write for example 1..100.',
      ),
    );
  return ok(Array.from({ length: to - from + 1 }, (_, i) => from + i));
}

/** Ladders that are moved because the best lay at an end; then a hobbyist gives up. */
const MOST_MOVES = 2;
/** Steps of the ladder by which truth is measured, as a share of the usual step. */
const FINE = 0.5;
/** How far beyond the usual range truth is looked for, in usual steps. */
const BEYOND = 1;

export class Loop {
  readonly step: number;
  private readonly weights;
  private readonly fine: Made;
  private readonly made = new Map<string, Made>();

  constructor(
    private readonly kind: LadderKind,
    private readonly bench: Bench,
  ) {
    this.weights = defaultWeights(kind);
    const { from, to, step } = kind.defaults(bench) as { from: number; to: number; step: number };
    this.step = step;
    const { min, max } = kind.bounds(bench);
    const clip = (value: number) => Math.min(max, Math.max(min, value));
    const [low, high] = [Math.min(from, to), Math.max(from, to)];
    const wide = { low: clip(low - BEYOND * step), high: clip(high + BEYOND * step) };
    const { resolution } = SETTINGS[kind.setting];
    const fine = Math.max(1, Math.floor((step * FINE) / resolution)) * resolution;
    const count = Math.floor((wide.high - wide.low) / fine);
    const falls = from > to;
    const top = wide.low + count * fine;
    this.fine = this.make({
      from: falls ? top : wide.low,
      to: falls ? wide.low : top,
      step: fine,
    });
  }

  private make(range: { from: number; to: number; step: number }): Made {
    const key = JSON.stringify(range);
    const known = this.made.get(key);
    if (known) return known;
    const made = must(makeLadder(this.kind.id, { ...range }, this.bench));
    this.made.set(key, made);
    return made;
  }

  trial(seed: number): Trial {
    const truths = drawTruths(this.bench, seed);
    const { from, to, step } = this.kind.defaults(this.bench) as {
      from: number;
      to: number;
      step: number;
    };
    const trial: Trial = {
      seed,
      truth: this.truth(truths),
      verdict: 'no-effect',
      value: null,
      range: null,
      refined: null,
      refinedRange: null,
      ladders: 0,
      minutes: 0,
      grams: 0,
    };
    const read: Earlier[] = [];
    let found = this.read(this.make({ from, to, step }), truths, trial, read);
    for (let i = 0; i < MOST_MOVES && found.verdict === 'edge' && found.next; i++)
      found = this.read(this.make(found.next.range), truths, trial, read);
    trial.verdict = found.verdict;
    trial.value = trial.refined = found.value;
    trial.range = trial.refinedRange = found.range;
    if (found.verdict === 'value' && found.next) {
      const again = this.read(this.make(found.next.range), truths, trial, read);
      if (again.value !== null) {
        trial.refined = again.value;
        trial.refinedRange = again.range;
      }
    }
    return trial;
  }

  /** Value at which the weighed quality of the print is truly best, by a fine ladder and no eye. */
  private truth(truths: Truths): number {
    const { trace, plan } = this.fine;
    const printed = printTrace(trace, this.bench, truths);
    const values = plan.rungs.map(({ set }) => set[this.kind.setting]!);
    return peakOf(values, trueQuality(printed, plan.rungs, this.weights));
  }

  /** Prints a ladder, scores it, and works out the value from this and the ladders before. */
  private read(
    { trace, plan, audit }: Made,
    truths: Truths,
    trial: Trial,
    earlier: Earlier[],
  ): Finding {
    const printed = printTrace(trace, this.bench, truths);
    trial.ladders++;
    trial.minutes += printed.seconds / 60;
    trial.grams += audit.grams;
    const names = this.kind.criteria.map(({ name }) => name);
    const person = Math.imul(truths.seed, 31) + trial.ladders;
    const { scores } = scored(printed, plan.rungs, names, person);
    const found = findBest(this.kind, plan, this.bench, [scores], this.weights, 1, earlier);
    earlier.push({ plan, readings: [scores] });
    return must(found);
  }
}

/** Place of the largest, between the steps by a parabola through its neighbours. */
export function peakOf(values: readonly number[], heights: readonly number[]): number {
  const best = heights.indexOf(Math.max(...heights));
  const [a, b, c] = [heights[best - 1], heights[best]!, heights[best + 1]];
  if (a === undefined || c === undefined || a + c - 2 * b === 0) return values[best]!;
  const offset = (0.5 * (a - c)) / (a - 2 * b + c);
  return values[best]! + offset * (values[best + 1]! - values[best]!);
}

const within = (value: number | null, truth: number, far: number): boolean =>
  value !== null && Math.abs(value - truth) <= far;
const holds = (range: [number, number] | null, truth: number): boolean =>
  range !== null && truth >= range[0] && truth <= range[1];

/** How often, of all trials: counts, and the median distance. */
function sums(trials: readonly Trial[], step: number) {
  const off = trials.flatMap(({ value, truth }) =>
    value === null ? [] : [Math.abs(value - truth)],
  );
  const found = trials.filter(({ value }) => value !== null);
  return {
    count: trials.length,
    withValue: found.length,
    withinStep: trials.filter(({ value, truth }) => within(value, truth, step)).length,
    rangeHolds: found.filter(({ range, truth }) => holds(range, truth)).length,
    refinedWithin: trials.filter(({ refined, truth }) => within(refined, truth, 0.6 * step)).length,
    refinedHolds: found.filter(({ refinedRange, truth }) => holds(refinedRange, truth)).length,
    medianOff: off.length > 0 ? quantile(off, 0.5) : null,
  };
}

function trialLine(trial: Trial, kind: LadderKind): string {
  const { unit } = SETTINGS[kind.setting];
  const { seed, truth, verdict, value, range, refined, minutes, grams, ladders } = trial;
  const parts = [
    `seed ${seed}`,
    `truth ${short(truth, 1)} ${unit}`,
    value === null ? verdict : `found ${short(value, 3)}`,
    range
      ? `range ${short(range[0], 3)} to ${short(range[1], 3)}${holds(range, truth) ? '' : ' MISSES'}`
      : '',
    refined !== null && refined !== value ? `refined ${short(refined, 3)}` : '',
    `${ladders} ladders, ${Math.round(minutes)} min, ${short(grams, 1)} g`,
  ];
  return parts.filter(Boolean).join(' · ');
}

function summary(trials: readonly Trial[], kind: LadderKind, step: number): string[] {
  const { unit } = SETTINGS[kind.setting];
  const s = sums(trials, step);
  return [
    `${s.withValue} of ${s.count} with a value`,
    `${s.withinStep} of ${s.count} within one step (${short(step)} ${unit}) of the truth`,
    `${s.rangeHolds} of ${s.withValue} first ranges hold the truth (80 % is what they say)`,
    `${s.refinedWithin} of ${s.count} within ${short(0.6 * step)} ${unit} after one refined ladder, whose range holds ${s.refinedHolds}`,
    `median ${s.medianOff === null ? 'none' : short(s.medianOff, 2)} ${unit} off at first`,
  ];
}
