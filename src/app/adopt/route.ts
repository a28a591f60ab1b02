import { Reader } from '@/core/gcode/read';
import { specFor } from '@/core/ladders/make';
import { kindOf } from '@/core/ladders/registry';
import { parsePlan, type PlanFile } from '@/core/ladders/plan-file';
import { defaultWeights } from '@/core/reading/find';
import { problem } from '@/core/result';
import { bodyOf, refuse } from '../server/body';
import { now, store } from '../server/store';

/** Ladders are small; nothing else of ours is larger. */
const LARGEST_LADDER = 50 * 2 ** 20;

/**
 * Takes in a ladder of ours that may have been made on another machine: its bench, if no like one is here, the
 * file itself, and a printed copy to be read.
 */
export async function POST(request: Request) {
  const body = await bodyOf(request, LARGEST_LADDER);
  if (!body.ok) return refuse(body.problems, 413);
  const reader = new Reader();
  reader.push(body.value);
  const { planText } = reader.end();
  const plan = planText === null ? null : parsePlan(planText);
  if (!plan)
    return refuse([
      problem('file', 'It carries no plan of ours.', 'Open the file that was made here.'),
    ]);
  if (!plan.ok) return refuse(plan.problems);
  const kind = kindOf(plan.value.kind);
  if (!kind.ok) return refuse(kind.problems);
  // Somebody else's file: its inputs must be ones that the kind knows, or no screen could show them.
  const spec = specFor(kind.value, plan.value.bench, plan.value.spec);
  if (!spec.ok) return refuse(spec.problems);
  const text = new TextDecoder().decode(body.value);
  const { db, files, ladders, prints, readings } = store();
  const ladderId = db.transaction(() => {
    const known = files.same(text);
    const fileId =
      known?.id ??
      files.keep(
        ladders.add({
          benchId: benchFor(plan.value),
          kind: plan.value.kind,
          spec: spec.value as Record<string, number>,
          weights: defaultWeights(kind.value),
          createdAt: now(),
        }),
        text,
        plan.value,
        now(),
      );
    const ladder = files.get(fileId)!.ladderId;
    if (prints.ofLadder(ladder).length === 0) {
      const print = prints.add(fileId, now());
      readings.start(print, '', now());
    }
    return ladder;
  })();
  return Response.json({ href: `/ladder/${ladderId}/read` });
}

/** The bench of a plan: the same machine, nozzle and filament that are here already, or new ones. */
function benchFor({ bench }: PlanFile): number {
  const { machines, filaments, benches } = store();
  const same = (body: unknown) => (one: { body: unknown }) =>
    JSON.stringify(one.body) === JSON.stringify(body);
  const machine = machines.all().find(same(bench.machine))?.id ?? machines.add(bench.machine);
  const filament = filaments.all().find(same(bench.filament))?.id ?? filaments.add(bench.filament);
  return benches.join(machine, bench.nozzle.diameter, filament, now());
}
