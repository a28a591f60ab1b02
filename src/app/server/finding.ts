/** The finding of a ladder from everything that was read of it. */

import 'server-only';
import type { Bench } from '@/core/bench/bench';
import { kindOf } from '@/core/ladders/registry';
import type { PlanFile } from '@/core/ladders/plan-file';
import { findValue } from '@/core/reading/find-value';
import type { Earlier, Finding } from '@/core/reading/find';
import type { Scores } from '@/core/reading/types';
import { fail, ok, problem, type Result } from '@/core/result';
import type { Setting } from '@/core/settings';
import type { Ladder } from '@/store/ladders';
import type { Simulated } from '@/store/ladders';
import { copiesOf, poolable, type PrintedCopy } from './ladder';
import { store } from './store';

export type Found = {
  finding: Finding;
  plan: PlanFile;
  scores: Scores[];
  copies: PrintedCopy[];
  /** Readings of ladders before this one that count too. */
  earlier: number;
  simulated: Simulated | null;
};

export function findingOf(ladder: Ladder, bench: Bench): Result<Found> {
  const kind = kindOf(ladder.kind);
  if (!kind.ok) return kind;
  const copies = poolable(copiesOf(ladder.id));
  const plan = copies.at(-1)?.plan;
  if (!plan)
    return fail(
      problem(
        'print',
        'Nothing has been printed of this ladder yet.',
        'Print it, then score its rungs.',
      ),
    );
  const scores = copies.flatMap(({ readings }) => readings.map((one) => one.scores));
  const simulated = copies.at(-1)!.print.simulated;
  const before = earlierOf(ladder, plan, kind.value.setting, simulated);
  const measured = copies.flatMap(({ readings }) => readings.map((one) => one.measured));
  const finding = findValue(kind.value, plan, bench, {
    readings: scores,
    measured,
    weights: ladder.weights,
    earlier: before,
  });
  if (!finding.ok) return finding;
  const earlier = before.reduce((sum, { readings }) => sum + readings.length, 0);
  return ok({ finding: finding.value, plan, scores, copies, earlier, simulated });
}

/** What a ladder is but for its range, and what it was printed on. */
const formOf = (
  { spec, bench, held }: PlanFile,
  setting: Setting,
  simulated: Simulated | null,
): string => {
  const { from: _from, to: _to, step: _step, ...form } = spec;
  // What the ledger holds of the setting itself does not matter to a ladder that climbs it.
  const { [setting]: _own, ...tuned } = bench.tuned ?? {};
  return JSON.stringify([form, { ...bench, tuned }, held, simulated?.seed ?? null]);
};

/** Ladders of the same form that were read before this one: a refined ladder goes on from what they showed. */
function earlierOf(
  ladder: Ladder,
  plan: PlanFile,
  setting: Setting,
  simulated: Simulated | null,
): Earlier[] {
  const form = formOf(plan, setting, simulated);
  return store()
    .ladders.ofBench(ladder.benchId)
    .filter(({ id, kind }) => id < ladder.id && kind === ladder.kind)
    .flatMap(({ id }) => copiesOf(id))
    .filter((copy) => formOf(copy.plan, setting, copy.print.simulated) === form)
    .map((copy) => ({
      plan: copy.plan,
      readings: copy.readings.flatMap(({ begun, scores }) => (begun ? [scores] : [])),
    }))
    .filter(({ readings }) => readings.length > 0);
}
