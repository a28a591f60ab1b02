/** From everything that was read of a ladder to its value, by the rule of its kind (domain.md §8). */

import type { Bench } from '../bench/bench';
import type { Found, LadderKind, Measured, Worked } from '../ladders/types';
import { short, tidy } from '../numbers';
import { leadAxis, valuesOn } from '../plan/axes';
import type { Plan } from '../plan/plan';
import { fail, ok, problem, type Problem, type Result } from '../result';
import { settingInfo, type Setting } from '../bench/settings';
import { findClean } from './clean';
import { findLimits } from './find-limits';
import { findMap } from './find-map';
import { findProof } from './find-proof';
import { findPlane } from './find-plane';
import { findBest, snapSafely, tidyRange } from './find';
import type { Finding, Proposal } from './finding';
import type { Case, Earlier } from './gather';
import type { Told } from './pool';
import type { Scores, Weights } from './types';

export type Said = {
  readings: readonly Scores[];
  /** Readings of the loupe. */
  loupe?: readonly Told[];
  /** Numbers that were measured, a record for each reading. */
  measured?: readonly Measured[];
  weights?: Weights;
  seed?: number;
  earlier?: readonly Earlier[];
};

export function findValue(
  kind: LadderKind,
  plan: Plan,
  bench: Bench,
  { measured = [], ...said }: Said,
): Result<Finding> {
  const numbers = pooled(kind, measured);
  const worked = kind.work && numbers.given ? kind.work(numbers.all, plan) : null;
  if (worked && !worked.ok) return worked;
  const odd = worked ? absurd(kind, worked.value.values, bench) : null;
  if (odd) return fail(odd);
  const notes = worked?.value.also ?? [];
  if (worked && worked.value.values.length > 0) return ok(measuredFinding(worked.value, notes));
  if (kind.rule.kind === 'measured')
    return fail(
      problem(
        'measure',
        numbers.missing,
        'Measure as the scoring page says, and enter what you find.',
      ),
    );
  const found = byRule({ kind, plan, bench, measured, ...said });
  return found.ok ? ok({ ...found.value, notes: [...found.value.notes, ...notes] }) : found;
}

/** By the rule of the kind: of two settings together, or of the one that climbs. */
function byRule(given: Case): Result<Finding> {
  const { rule } = given.kind;
  if (rule.kind === 'plane') return findPlane(given, rule.least);
  if (rule.kind === 'limits') return findLimits(given, rule);
  if (rule.kind === 'map') return findMap(given);
  if (rule.kind === 'proof') return findProof(given);
  return rule.kind === 'clean' ? findClean(given, rule.end, rule.sure) : findBest(given);
}

/** Numbers of all readings together; `given` once every measure that is needed has been taken often enough. */
function pooled({ measures = [] }: LadderKind, measured: readonly Measured[]) {
  const all: Measured = {};
  for (const { key } of measures) all[key] = measured.flatMap((one) => one[key] ?? []);
  const short = measures.filter(({ key, fewest }) => all[key]!.length < fewest);
  const any = measures.some(({ key }) => all[key]!.length > 0);
  return {
    all,
    given: any && short.length === 0,
    missing: short
      .map(
        ({ key, label, fewest }) =>
          `${label} was measured ${all[key]!.length === 0 ? 'not at all' : `${all[key]!.length} times`}; at least ${fewest === 1 ? 'once' : `${fewest} times`} is needed.`,
      )
      .join(' '),
  };
}

/** A range wider than this share of its value says that the numbers do not belong together. */
const WIDEST = 0.5;

/** Why what was measured cannot be: outside what the bench allows, or no surer than a guess. */
function absurd(kind: LadderKind, values: readonly Found[], bench: Bench): Problem | null {
  for (const { setting, value, range } of values) {
    const { title, unit } = settingInfo(setting);
    const { min, max } = kind.bounds(bench)[setting] ?? { min: -Infinity, max: Infinity };
    const outside = value < min || value > max;
    const wide = min > 0 && range[1] - range[0] > WIDEST * Math.abs(value);
    if (!outside && !wide) continue;
    return problem(
      'measure',
      outside
        ? `That would mean ${short(value)} ${unit} of ${title}; this bench allows ${short(min)} to ${short(max)}.`
        : `That would mean ${title} anywhere between ${short(range[0])} and ${short(range[1])} ${unit}.`,
      'Check the numbers for a slip, and measure again.',
    );
  }
  return null;
}

/**
 * A value that somebody types instead of the proposal: it must lie where the ladder was printed, within a step
 * beyond its ends. Catches 0.3 for 0.03.
 */
export function typedValue(
  kind: LadderKind,
  plan: Plan,
  bench: Bench,
  value: number,
  setting: Setting = kind.finds[0],
): Result<number> {
  const { title, unit, resolution } = settingInfo(setting);
  const axis = plan.axes.find((one) => one.setting === setting) ?? leadAxis(plan);
  const printed = axis ? [...new Set(valuesOn(axis, plan))] : [];
  const bounds = kind.bounds(bench)[setting] ?? { min: -Infinity, max: Infinity };
  const step = printed.length > 1 ? Math.abs(printed[1]! - printed[0]!) : resolution;
  const [low, high] =
    printed.length > 1
      ? [
          Math.max(bounds.min, Math.min(...printed) - step),
          Math.min(bounds.max, Math.max(...printed) + step),
        ]
      : [bounds.min, bounds.max];
  if (value >= low - resolution / 2 && value <= high + resolution / 2)
    return ok(snapSafely(value, resolution, 'lower'));
  return fail(
    problem(
      'value',
      `${short(value, 5)} ${unit} of ${title} was entered; ${
        printed.length > 1
          ? `this ladder printed ${short(Math.min(...printed))} to ${short(Math.max(...printed))}`
          : `this bench allows ${short(low)} to ${short(high)}`
      }.`,
      'Check the decimal point; for a value further off, print a ladder that reaches it.',
    ),
  );
}

function measuredFinding({ values, reason }: Worked, notes: string[]): Finding {
  const told = values.map(({ setting, value, range }): Proposal => ({
    setting,
    value: snapSafely(value, settingInfo(setting).resolution, 'lower'),
    range: tidyRange(range, settingInfo(setting).resolution / 10),
  })) as Finding['values'];
  const [{ setting, range }] = told;
  const wide = range ? range[1] - range[0] : 0;
  return {
    verdict: 'value',
    values: told,
    done: tidy(wide) < 2 * settingInfo(setting).resolution,
    reason,
    evidence: 0,
    next: null,
    curve: [],
    observations: [],
    notes,
  };
}
