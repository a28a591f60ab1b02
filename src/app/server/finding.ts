/** The findings of a ladder from everything that was scored of it: of real prints, and of each simulated machine. */

import 'server-only';
import { createHash } from 'node:crypto';
import type { Bench } from '@/core/bench/bench';
import { kindFor } from '@/core/ladders/registry';
import type { Counted } from '@/core/loupe/together';
import type { Plan } from '@/core/plan/plan';
import type { Finding } from '@/core/reading/finding';
import type { Earlier } from '@/core/reading/gather';
import type { Scores } from '@/core/reading/types';
import { fail, ok, problem, type Result } from '@/core/result';
import type { Setting } from '@/core/bench/settings';
import type { Ladder, Simulated } from '@/store/ladders';
import { copiesOf, copiesOfAll, groupName, type Group, type PrintedCopy } from './ladder';
import { store } from './store';
import { inThread } from './threads';

export type Found = {
  finding: Finding;
  plan: Plan;
  scores: Scores[];
  copies: PrintedCopy[];
  /** Readings of ladders before this one that count too. */
  earlier: number;
  simulated: Simulated | null;
};

/** The group that is meant: by its name, or the real prints where they were scored, or what was scored last. */
export function groupFor(groups: readonly Group[], of?: string): Group | undefined {
  return (
    groups.find((one) => one.of === of) ??
    groups.find((one) => one.begun && !one.simulated) ??
    groups.find((one) => one.begun) ??
    groups[0]
  );
}

export async function findingOf(
  ladder: Ladder,
  bench: Bench,
  group: Group | undefined,
): Promise<Result<Found>> {
  const kind = kindFor(ladder);
  if (!kind.ok) return kind;
  const plan = group?.copies.at(-1)?.plan;
  if (!group || !plan)
    return fail(
      problem(
        'print',
        'Nothing has been printed of this ladder yet.',
        'Print it, then score its rungs.',
      ),
    );
  const { copies, simulated } = group;
  const scores = copies.flatMap(({ readings }) => readings.map((one) => one.scores));
  const earlier = [
    ...elsewhere(ladder, group),
    ...earlierOf(ladder, plan, kind.value.finds, simulated),
  ];
  const measured = copies.flatMap(({ readings }) => readings.map((one) => one.measured));
  const counted = copies.flatMap(countedOf);
  const said = { readings: scores, measured, counted, weights: ladder.weights, earlier };
  const finding = await worked({ kind: ladder.kind, plan, bench, said });
  if (!finding.ok) return finding;
  const count = earlier.reduce(
    (sum, { readings, counted: of }) => sum + readings.length + of.length,
    0,
  );
  return ok({ finding: finding.value, plan, scores, copies, earlier: count, simulated });
}

type Task = Parameters<typeof inThread<'find'>>[1];

/** Findings that are kept ready, by everything that they depend on. */
const MOST_KEPT = 300;
const shared = globalThis as { ashFindings?: Map<string, Promise<Result<Finding>>> };

/** Works a finding out once for what it depends on, in a thread; views of the same wait for the same. */
function worked(task: Task): Promise<Result<Finding>> {
  const kept = (shared.ashFindings ??= new Map<string, Promise<Result<Finding>>>());
  const key = createHash('sha256').update(JSON.stringify(task)).digest('base64');
  const known = kept.get(key);
  if (known) {
    // Used again, it is the last to be let go.
    kept.delete(key);
    kept.set(key, known);
    return known;
  }
  const finding = inThread('find', task);
  kept.set(key, finding);
  finding.catch(() => kept.delete(key));
  if (kept.size > MOST_KEPT) kept.delete(kept.keys().next().value!);
  return finding;
}

/** What a ladder climbs, a grid across too, and which print of a map it is; all else is its form. */
const CLIMBED = new Set(['from', 'to', 'step', 'left', 'right', 'columnStep', 'part']);

/** What a ladder is but for its range, and what it was printed on. */
const formOf = (
  { spec, bench, held }: Plan,
  finds: readonly Setting[],
  simulated: Simulated | null,
): string => {
  const form = Object.entries(spec).filter(([key]) => !CLIMBED.has(key));
  // What the ledger holds of the settings themselves does not matter to a ladder that climbs them.
  const tuned = Object.entries(bench.tuned ?? {}).filter(
    ([setting]) => !finds.includes(setting as Setting),
  );
  return JSON.stringify([form, { ...bench, tuned }, held, simulated?.seed ?? null]);
};

const countedOf = ({ counted }: PrintedCopy): Counted[] => counted.map(({ measures }) => measures);

type Before = Earlier & { counted: Counted[] };

const begunOf = (copy: PrintedCopy): Before => ({
  plan: copy.plan,
  counted: countedOf(copy),
  ...begunIn(copy),
});

const begunIn = ({ readings }: PrintedCopy) => ({
  readings: readings.flatMap(({ begun, scores }) => (begun ? [scores] : [])),
  measured: readings.flatMap(({ begun, measured }) => (begun ? [measured] : [])),
});

/** Copies of the same file whose rungs were nudged to other heights: each tells of its own. */
function elsewhere(ladder: Ladder, { copies, of }: Group): Before[] {
  const files = new Set(copies.map(({ print }) => print.fileId));
  const mine = new Set(copies.map(({ print }) => print.id));
  return copiesOf(ladder.id)
    .filter(({ print }) => files.has(print.fileId) && !mine.has(print.id))
    .filter(({ print }) => groupName(print.simulated) === of)
    .map(begunOf)
    .filter(({ readings, counted }) => readings.length + counted.length > 0);
}

/** More ladders of before than these tell nothing that they do not. */
const MOST_EARLIER = 60;

/** Ladders of the same form that were read before this one: a refined ladder goes on from what they showed. */
function earlierOf(
  ladder: Ladder,
  plan: Plan,
  finds: readonly Setting[],
  simulated: Simulated | null,
): Before[] {
  const form = formOf(plan, finds, simulated);
  const before = store().ladders.before(ladder.benchId, ladder.kind, ladder.id, MOST_EARLIER);
  return copiesOfAll(before.map(({ id }) => id))
    .filter((copy) => formOf(copy.plan, finds, copy.print.simulated) === form)
    .map(begunOf)
    .filter(({ readings, counted }) => readings.length + counted.length > 0);
}
