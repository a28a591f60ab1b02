/** The whole loop without an interface: design, print on an understudy, score by its eye, find. */

import type { Bench } from '../core/bench/bench';
import type { Criterion } from '../core/criteria';
import { LayingMemory } from '../core/deposit/deposit';
import { makeLadder, type Made } from '../core/ladders/make';
import { leadValues } from '../core/plan/axes';
import type { Plan } from '../core/plan/plan';
import type { LadderKind } from '../core/ladders/types';
import { crossingOf, together as weighedTogether } from '../core/reading/clean';
import { isotonic } from '../core/reading/isotonic';
import { findValue } from '../core/reading/find-value';
import { nextRange, type Finding } from '../core/reading/finding';
import { defaultWeights, type Earlier } from '../core/reading/gather';
import { BEST_SCORE } from '../core/reading/types';
import { clamp, snap, STEP_SLACK, tidy } from '../core/numbers';
import { ratioOf, type Range } from '../core/ladders/climb';
import { fail, ok, problem, type Result } from '../core/result';
import { settingInfo } from '../core/bench/settings';
import { quality, scored, trueQuality } from '../understudy/eye';
import { look, type Seen } from '../understudy/looks';
import { printTrace, type Printed } from '../understudy/print';
import { drawTruths, type Truths } from '../understudy/truths';
import { EXACT, measure } from './instruments';
import { withFound } from './found-before';
import { placesOf } from './places';
import { curveOf, regretMeasured, regretOn, type Regret } from './regret';

/** What one hidden machine brought. */
export type Trial = {
  seed: number;
  truth: number;
  /** Step of the ladder about the truth. */
  step: number;
  verdict: Finding['verdict'];
  value: number | null;
  range: [number, number] | null;
  /** After one more ladder, refined around the first finding. */
  refined: number | null;
  refinedRange: [number, number] | null;
  /** What the first value costs, or, where none was found, what stays as it was; null where that is unknown. */
  regret: Regret | null;
  /** The same after the refined ladder. */
  refinedRegret: Regret | null;
  /** Ladders printed, those that were moved and the refined one included. */
  ladders: number;
  minutes: number;
  grams: number;
};

/** Ladders that are moved because the best lay at an end; then a hobbyist gives up. */
const MOST_MOVES = 2;
/** Ladders kept ready. */
const MOST_KEPT = 12;
/** Steps of the ladder by which truth is measured, as shares of the usual step: the finest that can be made. */
const FINE = [0.5, 1];
/** Rungs of the ladder that looks closely at a limit, after its first. */
const ZOOM = 8;
/** How far beyond the usual range truth is looked for, in usual steps. */
const BEYOND = 1;

/** What is known of a hidden machine: its best value, and what any other costs. */
type Hidden = { truth: number; regret: (value: number) => Regret };

export class Loop {
  private readonly weights;
  private readonly made = new Map<string, Made>();
  private readonly memory = new LayingMemory();

  private constructor(
    private readonly kind: LadderKind,
    private readonly bench: Bench,
    private readonly usual: Range,
  ) {
    this.weights = defaultWeights(kind);
  }

  /** @returns problems for a kind that this bench cannot print */
  static on(kind: LadderKind, bench: Bench): Result<Loop> {
    const made = makeLadder(kind.id, {}, bench);
    if (!made.ok) return made;
    return ok(new Loop(kind, bench, { ...USUAL, ...kind.defaults(bench) }));
  }

  /** The finest ladder that can be made, by which truth is measured. */
  private fine(bench: Bench): Result<Made> {
    if (this.kind.rule.kind !== 'measured')
      for (const share of FINE) {
        const fine = this.make(fineRange(this.kind, bench, this.usual, share), bench);
        if (fine.ok) return fine;
      }
    return this.make({}, bench);
  }

  /** Step of the usual ladder about a value, in the unit of its setting. */
  private stepAt(value: number): number {
    const { usual } = this;
    return usual.growing === 1 ? Math.abs(value) * (1 - 1 / ratioOf(usual)) : usual.step;
  }

  /** Prints, reads and refines on the machine of a seed, with everything found that the kind stands on. */
  trial(seed: number, refined = true): Result<Trial> {
    const truths = drawTruths(this.bench, seed);
    const bench = withFound(this.bench, this.kind.standsOn, truths);
    const hidden = this.hidden(truths, bench);
    if (!hidden.ok) return hidden;
    const trial: Trial = {
      seed,
      truth: hidden.value.truth,
      step: this.stepAt(hidden.value.truth),
      verdict: 'no-effect',
      value: null,
      range: null,
      refined: null,
      refinedRange: null,
      regret: null,
      refinedRegret: null,
      ladders: 0,
      minutes: 0,
      grams: 0,
    };
    const before: Earlier[] = [];
    let range = this.usual;
    let refining = false;
    for (;;) {
      const found = this.read(range, truths, trial, before, bench);
      if (!found.ok) return found;
      const {
        verdict,
        values: [{ value, range: within }],
      } = found.value;
      const next = nextRange(found.value);
      const first = trial.value === null;
      if (!first && value === null) return ok(trial);
      const regret = this.regretOf(hidden.value, value, bench);
      if (first) Object.assign(trial, { verdict, value, range: within, regret });
      Object.assign(trial, { refined: value, refinedRange: within, refinedRegret: regret });
      const moved = verdict === 'edge' && trial.ladders <= MOST_MOVES;
      const refine: boolean = refined && verdict === 'value' && !refining;
      if (!next || !(moved || refine)) return ok(trial);
      refining ||= refine;
      range = { ...next, ...evenly(this.usual) };
    }
  }

  /** What a ladder without any error would find: by a fine ladder and no eye. */
  truth(truths: Truths, bench = this.bench): Result<number> {
    const hidden = this.hidden(truths, bench);
    return hidden.ok ? ok(hidden.value.truth) : hidden;
  }

  /** What a value costs; where nobody found one, the setting stays as it was. */
  private regretOf({ regret }: Hidden, value: number | null, bench: Bench): Regret | null {
    const kept = value ?? settingInfo(this.kind.finds[0]).usual(bench);
    return Number.isFinite(kept) ? regret(kept) : null;
  }

  private hidden(drawn: Truths, bench: Bench): Result<Hidden> {
    // A value is one for the whole bed: what counts is the middle, wherever the rungs of a fine ladder come to lie.
    const truths = { ...drawn, bed: { ...drawn.bed, tiltX: 0, tiltY: 0 } };
    const made = this.fine(bench);
    if (!made.ok) return made;
    const { trace, plan } = made.value;
    const { rule, measures } = this.kind;
    const printed = printTrace(trace, bench, truths);
    if (rule.kind === 'measured') {
      const { key } = measures![0]!;
      const truth = EXACT[key]!(printed, plan, truths);
      return ok({ truth, regret: (value) => regretMeasured(key, value, truth) });
    }
    const values = leadValues(plan);
    const places = placesOf(plan);
    const heights = trueQuality(printed, places, this.weights);
    const looked = this.kind.criteria.map(({ name }) => name);
    const curve = curveOf(
      values,
      heights,
      places.map((place) => only(looked, look(printed, place))),
    );
    const known = (truth: number) => ({
      truth,
      regret: (value: number) => regretOn(curve, value, truth),
    });
    if (rule.kind !== 'best' && rule.kind !== 'clean')
      return fail(problem('kind', 'It has more than one truth.', 'Rehearse it by its own loop.'));
    if (rule.kind === 'best') return ok(known(peakOf(values, heights)));
    const order = rule.end === 'least' ? 1 : -1;
    const { limit, telling } = this.limit(plan, printed, order);
    // A limit lies somewhere between two rungs that jump: a second ladder looks between them.
    const near = this.make(this.around(limit, bench), bench);
    if (!near.ok) return ok(known(limit));
    const { trace: close, plan: zoomed } = near.value;
    return ok(known(this.limit(zoomed, printTrace(close, bench, truths), order, telling).limit));
  }

  /** Nine rungs over the step in which a limit lies. */
  private around(limit: number, bench: Bench): Range {
    const { min, max, resolution } = endsOf(this.kind, bench);
    const { from, to } = this.usual;
    const fine = Math.max(resolution, snap(this.stepAt(limit) / ZOOM, resolution));
    const low = clamp(snap(limit, resolution) - (ZOOM / 2) * fine, min, max - ZOOM * fine);
    const [foot, top] = [tidy(snap(low, resolution)), tidy(snap(low, resolution) + ZOOM * fine)];
    const ends = from > to ? { from: top, to: foot } : { from: foot, to: top };
    return { ...ends, step: fine, ...evenly(this.usual) };
  }

  /**
   * Where a rung becomes good, by all criteria that change at all, toward the clean side.
   *
   * @param by criteria that are known to tell; on a ladder of small steps none of them changes much
   */
  private limit(
    plan: Plan,
    printed: Printed,
    order: 1 | -1,
    by?: readonly Criterion[],
  ): { limit: number; telling: Criterion[] } {
    const values = leadValues(plan);
    const seen = placesOf(plan).map((place) => look(printed, place));
    const inOrder = values.map((_, i) => i).sort((a, b) => order * (values[a]! - values[b]!));
    const sorted = inOrder.map((i) => values[i]!);
    const known = this.kind.criteria.flatMap(({ name, weight }) => {
      const sizes = inOrder.map((i) => seen[i]![name]);
      if (sizes.some((size) => size === undefined)) return [];
      return [{ name, weight, y: sizes.map((size) => quality(name, size!) / BEST_SCORE) }];
    });
    const telling = known.filter(({ name, y }) =>
      by ? by.includes(name) : y.at(-1)! - y[0]! >= TOLD,
    );
    const names = telling.map(({ name }) => name);
    if (telling.length === 0) return { limit: sorted[0]!, telling: names };
    const together = weighedTogether(telling);
    const place = crossingOf(
      sorted,
      isotonic(
        together,
        together.map(() => 1),
      ),
    );
    const limit = place === -Infinity ? sorted[0]! : place === Infinity ? sorted.at(-1)! : place;
    return { limit, telling: names };
  }

  private make(range: Partial<Range>, bench: Bench): Result<Made> {
    const key = JSON.stringify([range, bench.tuned]);
    const known = this.made.get(key);
    if (known) return ok(known);
    const given = this.kind.rule.kind === 'measured' ? {} : { ...range };
    const made = makeLadder(this.kind.id, given, bench, this.memory);
    // Ladders of many machines would fill the memory; those of one are used again.
    if (this.made.size > MOST_KEPT) this.made.clear();
    if (made.ok) this.made.set(key, made.value);
    return made;
  }

  /** Prints a ladder, scores it, and works out the value from this and the ladders before. */
  private read(
    range: Range,
    truths: Truths,
    trial: Trial,
    before: Earlier[],
    bench: Bench,
  ): Result<Finding> {
    const made = this.make(range, bench);
    if (!made.ok) return made;
    const { trace, plan, audit } = made.value;
    const printed = printTrace(trace, bench, truths);
    trial.ladders++;
    trial.minutes += printed.seconds / 60;
    trial.grams += audit.grams;
    const names = this.kind.criteria.map(({ name }) => name);
    const person = Math.imul(truths.seed, 31) + trial.ladders;
    const { scores } = scored(printed, placesOf(plan), names, person);
    const keys = (this.kind.measures ?? []).map(({ key }) => key);
    const found = findValue(this.kind, plan, bench, {
      readings: [scores],
      measured: [measure(keys, printed, plan, person)],
      weights: this.weights,
      earlier: before,
    });
    before.push({ plan, readings: [scores] });
    return found;
  }
}

/** A criterion that gets better by less from end to end, 0..1, sets no limit. */
const TOLD = 0.25;

/** Kinds that climb nothing have no step of their own; it is what they are judged by. */
const USUAL = { from: 0, to: 0, step: 0.02 };

/** Of what is seen, what the kind looks at. */
const only = (names: readonly Criterion[], seen: Seen): Seen =>
  Object.fromEntries(names.flatMap((name) => (name in seen ? [[name, seen[name]]] : [])));

/** What this bench allows of what a kind finds, and the finest step of it. */
function endsOf(kind: LadderKind, bench: Bench) {
  const [setting] = kind.finds;
  const ends = kind.bounds(bench)[setting] ?? { min: -Infinity, max: Infinity };
  return { ...ends, resolution: settingInfo(setting).resolution };
}

/** Said where a kind would else have growing steps. */
const evenly = ({ growing }: Range): Partial<Range> =>
  growing === undefined ? {} : { growing: 0 };

/** A ladder in finer steps that reaches beyond the usual one, as far as the bench allows. */
function fineRange(kind: LadderKind, bench: Bench, usual: Range, share: number): Range {
  const { from, to, step, growing } = usual;
  const { min, max, resolution } = endsOf(kind, bench);
  if (growing === 1) {
    const low = Math.max(min, from / ratioOf(usual));
    return { from: low, to: Math.min(max, to), step: low * (ratioOf(usual) ** share - 1), growing };
  }
  const fine = tidy(Math.max(1, Math.floor((step * share) / resolution + STEP_SLACK)) * resolution);
  const low = Math.max(min, Math.min(from, to) - BEYOND * step);
  const high = Math.min(max, Math.max(from, to) + BEYOND * step);
  const top = tidy(low + Math.floor((high - low) / fine + STEP_SLACK) * fine);
  return from > to ? { from: top, to: low, step: fine } : { from: low, to: top, step: fine };
}

/** Qualities closer than this, in scores, are equally good: nobody tells them apart. */
const EQUAL = 0.1;

/** Place of the largest: the middle of all that are as good, or between steps by a parabola. */
export function peakOf(values: readonly number[], heights: readonly number[]): number {
  const top = Math.max(...heights);
  const best = heights.indexOf(top);
  const asGood = (i: number) => heights[i] !== undefined && heights[i] > top - EQUAL;
  let [first, last] = [best, best];
  while (asGood(first - 1)) first--;
  while (asGood(last + 1)) last++;
  if (last > first) return (values[first]! + values[last]!) / 2;
  const [a, b, c] = [heights[best - 1], heights[best]!, heights[best + 1]];
  if (a === undefined || c === undefined || a + c - 2 * b === 0) return values[best]!;
  const offset = (0.5 * (a - c)) / (a - 2 * b + c);
  return values[best]! + offset * (values[best + 1]! - values[best]!);
}
