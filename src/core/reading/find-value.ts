/** From everything that was read of a ladder to its value, by the rule of its kind (domain.md §8). */

import type { Bench } from '../bench/bench';
import type { PlanFile } from '../ladders/plan-file';
import type { LadderKind, Measured } from '../ladders/types';
import { tidy } from '../numbers';
import { fail, ok, problem, type Result } from '../result';
import { settingInfo } from '../settings';
import { findClean } from './clean';
import {
  defaultWeights,
  findBest,
  snapSafely,
  tidyRange,
  type Earlier,
  type Finding,
} from './find';
import type { Scores, Weights } from './types';

export type Said = {
  readings: readonly Scores[];
  /** Numbers that were measured, a record for each reading. */
  measured?: readonly Measured[];
  weights?: Weights;
  seed?: number;
  earlier?: readonly Earlier[];
};

export function findValue(
  kind: LadderKind,
  plan: PlanFile,
  bench: Bench,
  { readings, measured = [], weights = defaultWeights(kind), seed = 1, earlier = [] }: Said,
): Result<Finding> {
  const numbers = pooled(kind, measured);
  const worked = kind.work && numbers.given ? kind.work(numbers.all, plan) : null;
  if (worked && !worked.ok) return worked;
  const notes = worked?.value.also ?? [];
  if (worked && worked.value.values.length > 0) return ok(measuredFinding(worked.value, notes));
  if (kind.rule.kind === 'measured')
    return fail(
      problem(
        'measure',
        numbers.missing,
        'Measure as it is said on the reading screen, and enter what you find.',
      ),
    );
  const found =
    kind.rule.kind === 'clean'
      ? findClean(kind, kind.rule.end, plan, bench, readings, weights, seed, earlier)
      : findBest(kind, plan, bench, readings, weights, seed, earlier);
  return found.ok ? ok({ ...found.value, notes: [...found.value.notes, ...notes] }) : found;
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

type Work = { values: Finding['also']; reason: string };

function measuredFinding({ values, reason }: Work, notes: string[]): Finding {
  const [first, ...also] = values.map(({ setting, value, range }) => ({
    setting,
    value: snapSafely(value, settingInfo(setting).resolution, 'lower'),
    range: tidyRange(range, settingInfo(setting).resolution / 10),
  })) as [Finding['also'][number], ...Finding['also']];
  const { resolution, unit } = settingInfo(first.setting);
  return {
    ...first,
    verdict: 'value',
    unit,
    done: tidy(first.range[1] - first.range[0]) < 2 * resolution,
    reason,
    evidence: 0,
    next: null,
    curve: [],
    observations: [],
    also,
    notes,
  };
}
