/** The finding of a ladder from everything that was read of it. */

import 'server-only';
import type { Bench } from '@/core/bench/bench';
import { kindOf } from '@/core/ladders/registry';
import type { PlanFile } from '@/core/ladders/plan-file';
import { findBest, type Finding } from '@/core/reading/find';
import type { Scores } from '@/core/reading/types';
import { fail, ok, problem, type Result } from '@/core/result';
import type { Ladder } from '@/store/ladders';
import { copiesOf, poolable, type PrintedCopy } from './ladder';

export type Found = { finding: Finding; plan: PlanFile; scores: Scores[]; copies: PrintedCopy[] };

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
  const finding = findBest(kind.value, plan, bench, scores, ladder.weights);
  return finding.ok ? ok({ finding: finding.value, plan, scores, copies }) : finding;
}
