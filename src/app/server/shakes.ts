/** Shakes of a bench on the server: what is proposed from them, and the records of simulated runs over the wire. */

import 'server-only';
import type { Bench } from '@/core/bench/bench';
import { AXIS_NAMES, kindsTaken, shaperWay, shapingIn, type AxisName } from '@/core/bench/shaper';
import { slowestAxis } from '@/core/ladders/acceleration/kind';
import type { Plan } from '@/core/plan/plan';
import { foreseen, proposedFor, type Proposed } from '@/core/shake/kept';
import type { Limits } from '@/core/shake/propose';
import { Simulated } from '@/store/ladders';
import type { Shake } from '@/store/shakes';
import { copiesOfAll } from './ladder';
import { store } from './store';
import { inThread } from './threads';

const MOST_LISTED = 60;

export const shakesOf = (benchId: number): Shake[] => store().shakes.ofBench(benchId, MOST_LISTED);

/** The newest of an axis; one along both diagonals speaks of both. */
export const newestOf = (
  shakes: readonly Shake[],
  axis: AxisName,
  simulated: boolean,
): Shake | null =>
  shakes.find(
    (one) =>
      (one.axis === axis || one.axis === 'diagonals') && (one.simulated !== null) === simulated,
  ) ?? null;

/** Echoes that were measured on the newest acceleration ladder of a bench that has any, along one axis. */
export function echoesOf(
  benchId: number,
  axis: AxisName,
): { speed: number; distance: number; gaps: number } | null {
  const ladders = store()
    .ladders.ofBench(benchId, MOST_LISTED)
    .filter(({ kind }) => kind === 'acceleration')
    .map(({ id }) => id);
  // The newest ladder that has any: within one, what was printed first.
  const copies = copiesOfAll(ladders);
  for (const ladder of ladders)
    for (const { plan, readings } of copies.filter((one) => one.ladderId === ladder))
      for (const { measured } of readings) {
        const [distance] = measured[`over${axis}`] ?? [];
        const [gaps] = measured[`count${axis}`] ?? [];
        if (distance && gaps) return { speed: Number(plan.spec.speed), distance, gaps };
      }
  return null;
}

/** What an axis is proposed, from the shakes that are chosen; with one shaper for both axes, both are asked. */
export function proposedOf(
  bench: Bench,
  axis: AxisName,
  chosen: Partial<Record<AxisName, Shake | null>>,
  limits: Limits,
): Proposed | null {
  const { dialect } = bench.machine;
  const own = chosen[axis];
  if (!own) return null;
  const both = shaperWay(dialect) === 'both' ? [chosen.x, chosen.y] : [own];
  const shakes = both.flatMap((one) => (one ? [one.found] : []));
  return proposedFor(shakes, {
    limits,
    machine: slowestAxis(bench),
    kinds: kindsTaken(dialect, axis),
  });
}

/** What records of a bench said of a shaper check before it was printed, in a sentence; null without any. */
export function foreseenOf(plan: Plan, benchId: number, simulated: boolean): string | null {
  const { dialect } = plan.bench.machine;
  const over = plan.axes.find(({ along }) => along === 'x');
  const all = shakesOf(benchId);
  const known = AXIS_NAMES.flatMap((axis) => {
    const shake = newestOf(all, axis, simulated);
    return shake ? [{ axis, shake: shake.found }] : [];
  });
  if (!over || known.length === 0) return null;
  const said = over.steps.map(({ set }) =>
    foreseen(known.map(({ axis, shake }) => ({ shake, shaping: shapingIn(dialect, axis, set) }))),
  );
  const [without, withIt] = said;
  if (said.length !== 2 || without == null || withIt == null) return null;
  const where = known.length === 1 ? ` in ${known[0]!.axis}` : '';
  return `The shake said: a ghost can be seen${where} from ${without} mm/s² on without the shaper, and from ${withIt} mm/s² on with it.`;
}

/** Runs whose record was refused: they are not worked out again with every look at the page. */
const shared = globalThis as { ashShaking?: Promise<void>; ashRefused?: Set<number> };
const refused = (shared.ashRefused ??= new Set());

/** Records of runs over the wire on a simulated machine, once each. */
export function keepShaken(): Promise<void> {
  if (
    store()
      .shakes.runs()
      .every(({ job }) => refused.has(job))
  )
    return Promise.resolve();
  return (shared.ashShaking ??= keepAll().finally(() => delete shared.ashShaking));
}

async function keepAll(): Promise<void> {
  const { shakes, kept, benches } = store();
  for (const { job, keptId, axis, simulated, endedAt } of shakes.runs()) {
    const file = kept.get(keptId);
    const bench = file && benches.get(file.benchId);
    const bytes = file && (await kept.body(keptId));
    if (!file || !bench || !bytes || refused.has(job)) continue;
    const played = Simulated.parse(JSON.parse(simulated));
    const taken = await inThread('shaken', { bytes, bench: bench.bench, axis, seed: played.seed });
    if (!taken.ok) {
      refused.add(job);
      continue;
    }
    const row = { benchId: bench.id, axis, name: file.name, found: taken.value, simulated: played };
    shakes.add({ ...row, takenAt: endedAt }, job);
  }
}
