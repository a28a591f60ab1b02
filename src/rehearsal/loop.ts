/** The whole loop without an interface: design, print on an understudy, score by its eye, find. */

import type { Bench } from '../core/bench/bench';
import { makeLadder, type Made } from '../core/ladders/make';
import type { LadderKind } from '../core/ladders/types';
import { defaultWeights, findBest, type Earlier, type Finding } from '../core/reading/find';
import { ok, type Result } from '../core/result';
import { SETTINGS } from '../core/settings';
import { scored, trueQuality } from '../understudy/eye';
import { printTrace } from '../understudy/print';
import { drawTruths, type Truths } from '../understudy/truths';

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
  /** Ladders printed, those that were moved and the refined one included. */
  ladders: number;
  minutes: number;
  grams: number;
};

/** Ladders that are moved because the best lay at an end; then a hobbyist gives up. */
const MOST_MOVES = 2;
/** Steps of the ladder by which truth is measured, as a share of the usual step. */
const FINE = 0.5;
/** How far beyond the usual range truth is looked for, in usual steps. */
const BEYOND = 1;

type Range = { from: number; to: number; step: number };

export class Loop {
  private readonly weights;
  private readonly made = new Map<string, Made>();

  private constructor(
    private readonly kind: LadderKind,
    private readonly bench: Bench,
    private readonly usual: Range,
    private readonly fine: Made,
  ) {
    this.weights = defaultWeights(kind);
  }

  /** Makes ready: the fine ladder by which truth is measured is the same for every machine. */
  static on(kind: LadderKind, bench: Bench): Result<Loop> {
    const usual = kind.defaults(bench) as Range;
    const fine = makeLadder(kind.id, fineRange(kind, bench, usual), bench);
    return fine.ok ? ok(new Loop(kind, bench, usual, fine.value)) : fine;
  }

  /** Step of the usual ladder, in the unit of its setting. */
  get step(): number {
    return this.usual.step;
  }

  /** Prints, reads and refines on the machine of a seed. */
  trial(seed: number): Result<Trial> {
    const truths = drawTruths(this.bench, seed);
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
    const before: Earlier[] = [];
    let { from, to, step } = this.usual;
    let refining = false;
    for (;;) {
      const found = this.read({ from, to, step }, truths, trial, before);
      if (!found.ok) return found;
      const { verdict, value, range, next } = found.value;
      if (trial.value === null) Object.assign(trial, { verdict, value, range });
      else if (value === null) return ok(trial);
      Object.assign(trial, { refined: value, refinedRange: range });
      const moved = verdict === 'edge' && trial.ladders <= MOST_MOVES;
      const refine: boolean = verdict === 'value' && !refining;
      if (!next || !(moved || refine)) return ok(trial);
      refining ||= refine;
      ({ from, to, step } = next.range);
    }
  }

  /** Value at which the weighed quality of the print is truly best, by a fine ladder and no eye. */
  truth(truths: Truths): number {
    const { trace, plan } = this.fine;
    const printed = printTrace(trace, this.bench, truths);
    const values = plan.rungs.map(({ set }) => set[this.kind.setting]!);
    return peakOf(values, trueQuality(printed, plan.rungs, this.weights));
  }

  private make(range: Range): Result<Made> {
    const key = JSON.stringify(range);
    const known = this.made.get(key);
    if (known) return ok(known);
    const made = makeLadder(this.kind.id, { ...range }, this.bench);
    if (made.ok) this.made.set(key, made.value);
    return made;
  }

  /** Prints a ladder, scores it, and works out the value from this and the ladders before. */
  private read(range: Range, truths: Truths, trial: Trial, before: Earlier[]): Result<Finding> {
    const made = this.make(range);
    if (!made.ok) return made;
    const { trace, plan, audit } = made.value;
    const printed = printTrace(trace, this.bench, truths);
    trial.ladders++;
    trial.minutes += printed.seconds / 60;
    trial.grams += audit.grams;
    const names = this.kind.criteria.map(({ name }) => name);
    const person = Math.imul(truths.seed, 31) + trial.ladders;
    const { scores } = scored(printed, plan.rungs, names, person);
    const found = findBest(this.kind, plan, this.bench, [scores], this.weights, 1, before);
    before.push({ plan, readings: [scores] });
    return found;
  }
}

/** A ladder in finer steps that reaches beyond the usual one, as far as the bench allows. */
function fineRange(kind: LadderKind, bench: Bench, { from, to, step }: Range): Range {
  const { min, max } = kind.bounds(bench);
  const { resolution } = SETTINGS[kind.setting];
  const fine = Math.max(1, Math.floor((step * FINE) / resolution)) * resolution;
  const low = Math.max(min, Math.min(from, to) - BEYOND * step);
  const high = Math.min(max, Math.max(from, to) + BEYOND * step);
  const top = low + Math.floor((high - low) / fine) * fine;
  return from > to ? { from: top, to: low, step: fine } : { from: low, to: top, step: fine };
}

/** Place of the largest, between the steps by a parabola through its neighbours. */
export function peakOf(values: readonly number[], heights: readonly number[]): number {
  const best = heights.indexOf(Math.max(...heights));
  const [a, b, c] = [heights[best - 1], heights[best]!, heights[best + 1]];
  if (a === undefined || c === undefined || a + c - 2 * b === 0) return values[best]!;
  const offset = (0.5 * (a - c)) / (a - 2 * b + c);
  return values[best]! + offset * (values[best + 1]! - values[best]!);
}
