import { z } from 'zod';
import { kindFor } from '@/core/ladders/registry';
import type { Measure } from '@/core/ladders/types';
import type { Plan } from '@/core/plan/plan';
import { wronglyChosen } from '@/core/reading/best-rows';
import { short } from '@/core/numbers';
import { problem, type Problem } from '@/core/result';
import { Act, ActName } from '@/store/readings';
import { jsonBody, refuse } from '../../server/body';
import { idOf } from '../../server/ladder';
import { changed } from '../../server/live';
import { now, store } from '../../server/store';

/** Most acts in one request; a browser that was offline may have many waiting. */
const MOST_ACTS = 500;
const LARGEST = 256 * 1024;

const Step = z.union([
  Act,
  z.object({ id: ActName, undo: ActName }),
  z.object({ id: ActName, key: z.string().max(40), values: z.array(z.number()).max(50) }),
]);
const Steps = z.object({
  acts: z.array(Step).max(MOST_ACTS),
  /** Revision that the page has: it is answered with what came after. */
  since: z.number().int().min(0).optional(),
  /** Where the reader stands, to be there again when the page is opened. */
  place: z.string().max(200).optional(),
});

type Props = { params: Promise<{ id: string }> };

/** A reading as it is kept: all of it, or what came after a revision, with `since` said. */
function kept(id: number, since?: number) {
  const { readings } = store();
  const revision = readings.revision(id);
  const part = since !== undefined && since <= revision;
  return Response.json(
    {
      revision,
      ...(part ? { since, acts: readings.since(id, since) } : { acts: readings.answered(id) }),
      measured: readings.measured(id),
    },
    { headers: { 'cache-control': 'no-store' } },
  );
}

export async function GET(request: Request, { params }: Props) {
  const id = idOf((await params).id);
  const since = new URL(request.url).searchParams.get('since');
  return store().readings.get(id)
    ? kept(id, since !== null && /^\d{1,12}$/.test(since) ? Number(since) : undefined)
    : gone();
}

const gone = () =>
  refuse([problem('reading', 'This reading no longer exists.', 'Load the page again.')], 404);

/** Keeps taps, undos and numbers in the order in which they were given, all or none. */
export async function POST(request: Request, { params }: Props) {
  const id = idOf((await params).id);
  const { db, readings, prints, files, places } = store();
  const reading = readings.get(id);
  const print = reading && prints.get(reading.printId);
  const file = print && files.get(print.fileId);
  const kind = file ? kindFor(file.plan) : null;
  if (!file || !kind?.ok) return gone();
  const body = await jsonBody(request, LARGEST, Steps);
  if (!body.ok) return refuse(body.problems);
  const problems: Problem[] = [];
  for (const act of body.value.acts) {
    if ('undo' in act) continue;
    if ('key' in act) problems.push(...measureProblems(act, kind.value.measures ?? [], file.plan));
    else if (act.rung >= file.plan.rungs.length)
      problems.push(
        problem('rung', `There is no rung ${act.rung + 1}.`, `It has ${file.plan.rungs.length}.`),
      );
    else if (!kind.value.criteria.some(({ name }) => name === act.criterion))
      problems.push(
        problem('criterion', `${act.criterion} is not looked at here.`, 'Load the page again.'),
      );
  }
  if (problems.length > 0) return refuse(problems.slice(0, 10));
  db.transaction(() => {
    for (const act of body.value.acts) {
      if ('undo' in act) readings.undo(id, act.undo);
      else if ('key' in act) readings.measure(id, act.key, act.values, now());
      else readings.score(id, act, now());
    }
    if (body.value.place !== undefined) places.set(`reading ${id}`, body.value.place);
  })();
  changed(`/readings/${id}`, readings.revision(id));
  return kept(id, body.value.since);
}

function measureProblems(
  { key, values }: { key: string; values: number[] },
  measures: readonly Measure[],
  plan: Plan,
): Problem[] {
  const measure = measures.find((one) => one.key === key);
  if (!measure) return [problem(key, 'This is not measured here.', 'Load the page again.')];
  const { label, min, max, most, unit } = measure;
  const wrong = measure.tapped ? wronglyChosen(plan, values) : null;
  if (wrong) return [wrong];
  const odd = values.find((value) => value < min || value > max);
  if (odd !== undefined)
    return [
      problem(
        key,
        `${label}: ${short(odd)} ${unit} was entered; ${short(min)} to ${short(max)} ${unit} can be.`,
        'Correct it; nothing of this row is kept until then.',
      ),
    ];
  return values.length > most
    ? [problem(key, `${values.length} numbers came; ${most} are kept.`, 'Leave some out.')]
    : [];
}
