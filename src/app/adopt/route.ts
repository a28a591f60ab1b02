import { defaultWeights } from '@/core/reading/gather';
import { kindFor } from '@/core/ladders/registry';
import type { Plan } from '@/core/plan/plan';
import { bodyOf, refuse } from '../server/body';
import { now, store } from '../server/store';
import { refusedTo } from '../server/who';
import { inThread } from '../server/threads';

/** A ladder made of a sliced file is about as large as that. */
const LARGEST_LADDER = 201 * 2 ** 20;

/**
 * Takes in a ladder that Ash Ladder made that may have been made on another machine: its bench, if no like one is here, the
 * file itself, byte for byte, and a printed copy to be read.
 */
export async function POST(request: Request) {
  const refused = await refusedTo('change');
  if (refused) return refuse(refused.problems, 403);
  const body = await bodyOf(request, LARGEST_LADDER);
  if (!body.ok) return refuse(body.problems, 413);
  const bytes = body.value;
  const taken = await inThread('adopt', { bytes });
  if (!taken.ok) return refuse(taken.problems);
  const { plan, spec, original } = taken.value;
  const kind = kindFor(plan);
  if (!kind.ok) return refuse(kind.problems);
  const { db, files, grafts, kept, ladders, prints, readings } = store();
  const ladderId = db.transaction(() => {
    const known = files.same(bytes);
    const ladder =
      known?.ladderId ??
      ladders.add({
        benchId: benchFor(plan),
        kind: plan.kind,
        spec: spec as Record<string, number>,
        weights: defaultWeights(kind.value),
        createdAt: now(),
      });
    const fileId = known?.id ?? files.keep(ladder, bytes, plan, now());
    files.makeCurrent(fileId, ladder);
    if (!prints.any(ladder)) readings.start(prints.add(fileId, now()), '', now());
    return ladder;
  })();
  if (original && !grafts.of(ladderId)) {
    // What it was made of is in it: the next ladder is made of that again.
    const { benchId } = ladders.get(ladderId)!;
    const keptId = await kept.keep(benchId, original.name, original.bytes, now());
    grafts.put(ladderId, keptId, original.wish);
  }
  return Response.json({ href: `/ladder/${ladderId}/read` });
}

/** The bench of a plan: the same machine, nozzle and filament that are here already, or new ones. */
function benchFor({ bench }: Plan): number {
  const { machines, filaments, benches } = store();
  const same = (body: unknown) => (one: { body: unknown }) =>
    JSON.stringify(one.body) === JSON.stringify(body);
  const machine = machines.all().find(same(bench.machine))?.id ?? machines.add(bench.machine);
  const filament = filaments.all().find(same(bench.filament))?.id ?? filaments.add(bench.filament);
  return benches.join(machine, bench.nozzle.diameter, filament, now());
}
