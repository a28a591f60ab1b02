/** The whole loop of a limit that moves with another setting: one print on an understudy, a limit for each step. */

import type { Bench } from '../core/bench/bench';
import { settingInfo } from '../core/bench/settings';
import { LayingMemory } from '../core/deposit/deposit';
import { makeOf, type Made } from '../core/ladders/make';
import type { LadderKind, LimitsRule } from '../core/ladders/types';
import { snap, tidy } from '../core/numbers';
import type { Plan } from '../core/plan/plan';
import { crossingOf } from '../core/reading/clean';
import { overOf, type Limit } from '../core/reading/find-limits';
import { findValue } from '../core/reading/find-value';
import { defaultWeights } from '../core/reading/gather';
import { isotonic } from '../core/reading/isotonic';
import { BEST_SCORE } from '../core/reading/types';
import { fail, ok, problem, type Result } from '../core/result';
import { scored, trueQuality } from '../understudy/eye';
import { printTrace } from '../understudy/print';
import { drawTruths, type Truths } from '../understudy/truths';
import { withFound } from './found-before';
import { placesOf } from './places';

/** One step of the other setting: what is true there, and what was found. */
export type LimitTrial = Limit & {
  /** −∞ and ∞ where everything is clean, or nothing. */
  truth: number;
};
export type LimitsTrial = { seed: number; step: number; limits: LimitTrial[]; minutes: number };

export class LimitsLoop {
  private readonly memory = new LayingMemory();

  private constructor(
    private readonly kind: LadderKind,
    private readonly rule: LimitsRule,
    private readonly bench: Bench,
  ) {}

  /** @returns problems for a kind that has no such rule, or that this bench cannot print */
  static on(kind: LadderKind, bench: Bench): Result<LimitsLoop> {
    const { rule } = kind;
    if (rule.kind !== 'limits')
      return fail(problem('kind', `${kind.id} tells no limits.`, 'Rehearse it otherwise.'));
    const made = makeOf(kind, {}, bench);
    return made.ok ? ok(new LimitsLoop(kind, rule, bench)) : made;
  }

  trial(seed: number): Result<LimitsTrial> {
    const truths = drawTruths(this.bench, seed);
    const bench = withFound(this.bench, this.kind.standsOn, truths);
    const made = makeOf(this.kind, {}, bench, this.memory);
    if (!made.ok) return made;
    const { trace, plan } = made.value;
    const printed = printTrace(trace, bench, truths);
    const names = this.kind.criteria.map(({ name }) => name);
    const { scores } = scored(printed, placesOf(plan), names, Math.imul(seed, 31) + 1);
    const found = findValue(this.kind, plan, bench, { readings: [scores] });
    if (!found.ok) return found;
    const truth = this.truth(made.value, bench, truths);
    if (!truth.ok) return truth;
    const limits = found.value.limits!.rows.map((row, i) => ({ ...row, truth: truth.value[i]! }));
    return ok({ seed, step: stepOf(plan, this.rule), limits, minutes: printed.seconds / 60 });
  }

  /** Where each step becomes clean without any error: by a print in steps half as large, and no eye. */
  private truth({ plan }: Made, bench: Bench, drawn: Truths): Result<number[]> {
    const { of, over, end } = overOf(plan, this.rule);
    const truths = { ...drawn, bed: { ...drawn.bed, tiltX: 0, tiltY: 0 } };
    const values = valuesOf(plan, this.rule);
    const step = snap(stepOf(plan, this.rule) / 2, settingInfo(of).resolution);
    const [low, high] = [values[0]!, values.at(-1)!];
    const range = { from: low, to: tidy(low + Math.floor((high - low) / step) * step), step };
    const spec = this.kind.moved(this.kind.defaults(bench), { [of]: range });
    // Steps that grow, or so many, are not made: then the usual print tells.
    const fine = makeOf(this.kind, { ...spec }, bench);
    const made = fine.ok ? fine : makeOf(this.kind, {}, bench, this.memory);
    if (!made.ok) return made;
    const { trace, plan: finer } = made.value;
    const heights = trueQuality(
      printTrace(trace, bench, truths),
      placesOf(finer),
      defaultWeights(this.kind),
    );
    const steps = plan.axes.find(({ setting }) => setting === over)!.steps;
    const order = end === 'least' ? 1 : -1;
    return ok(
      steps.map(({ set }) => {
        const rungs = finer.rungs
          .filter((rung) => rung.set[over] === set[over])
          .sort((a, b) => order * (a.set[of]! - b.set[of]!));
        const y = isotonic(
          rungs.map(({ index }) => heights[index]! / BEST_SCORE),
          rungs.map(() => 1),
        );
        return crossingOf(
          rungs.map((rung) => rung.set[of]!),
          y,
        );
      }),
    );
  }
}

const valuesOf = (plan: Plan, { of }: LimitsRule): number[] =>
  plan.axes
    .find(({ setting }) => setting === of)!
    .steps.map(({ set }) => set[of]!)
    .sort((a, b) => a - b);

function stepOf(plan: Plan, rule: LimitsRule): number {
  const values = valuesOf(plan, rule);
  return tidy((values.at(-1)! - values[0]!) / (values.length - 1));
}
