/** The first-layer offset of the ledger, added to what a machine has: put in force, read back, stored, read again. */

import 'server-only';
import { revalidatePath } from 'next/cache';
import { addedSince } from '@/core/bench/added';
import { holds, type ReportedSetting } from '@/core/bench/reported';
import { settingInfo, storesOffset, type Setting } from '@/core/bench/settings';
import { short, signed, tidy } from '@/core/numbers';
import { lastHeight } from '@/core/plan/nudged';
import { fail, ok, problem, type Result } from '@/core/result';
import type { StoredBench } from '@/store/benches';
import type { SentJob } from '@/store/wires';
import { askLink, isSimulated } from './link';
import { now, store } from './store';
import { markStored } from './stored';

export const OFFSET: Setting = 'zOffset';
/** Values put into a machine that are looked through. */
const MOST_PUTS = 500;

const shared = globalThis as { ashAdding?: Map<number, Promise<unknown>> };

/** One after the other on a machine: two presses at once would add twice. */
export function oneByOne<T>(machineId: number, act: () => Promise<T>): Promise<T> {
  const turns = (shared.ashAdding ??= new Map<number, Promise<unknown>>());
  const next = (turns.get(machineId) ?? Promise.resolve()).then(act);
  turns.set(
    machineId,
    next.catch(() => undefined),
  );
  return next;
}

/** What was added to a machine since a copy was printed on it, mm. */
export const addedTo = (machineId: number, simulated: boolean, at: string): number =>
  addedSince(store().wires.puts(machineId, MOST_PUTS), { setting: OFFSET, simulated, at });

/** The height that a nudged print came to last, mm, and whether it was taken over since; null where nothing was nudged. */
export function heightOf(job: SentJob, { id, machineId, bench }: StoredBench) {
  const { files, wires, ledger } = store();
  const file = files.get(job.fileId);
  const height = file && lastHeight(file.plan, wires.nudges(job.id), job.line);
  if (!file || height === null || job.endedAt === null) return null;
  const { endedAt } = job;
  const simulated = job.simulated !== null;
  const left = tidy(height - addedTo(machineId, simulated, endedAt));
  const saved = ledger
    .current(id)
    .some((one) => one.ladderId === file.ladderId && one.foundAt > endedAt && one.value === height);
  const kept = storesOffset(bench.machine.dialect) ? left === 0 : saved;
  return { left, kept, simulated, ladderId: file.ladderId };
}

/** What a machine has of it now; a problem where it takes none by command. */
export async function offsetIn({ machineId, bench }: StoredBench): Promise<Result<number>> {
  const act = { act: 'settings', machine: machineId, bench, stored: false } as const;
  const has = await askLink<{ settings: ReportedSetting[] }>(act);
  if (!has.ok) return has;
  const seen = has.value.settings.find(({ setting }) => setting === OFFSET);
  const { name, dialect } = bench.machine;
  if (seen && storesOffset(dialect)) return ok(seen.value);
  return fail(
    problem(
      'setting',
      `${name} takes no ${settingInfo(OFFSET).title} by command: it is kept in a file.`,
      'Change the z offset in that file. Until you have, every file that is made here brings it.',
    ),
  );
}

/**
 * Files add the same amount until the machine has it, so that it is never in one without the other: it is added and
 * stored in one go, and what was there before comes back where it cannot be stored. Only within {@link oneByOne}.
 */
export async function addOffset(stored: StoredBench): Promise<Result<null>> {
  const { id, machineId, bench } = stored;
  const simulated = await isSimulated(machineId);
  const { db, ledger, wires } = store();
  const entry = ledger
    .current(id)
    .find((one) => one.setting === OFFSET && one.simulated === simulated);
  if (!entry || entry.carriedAt !== null)
    return fail(
      problem(
        'setting',
        'Nothing is left to be added to this machine.',
        'Load the page again to see what it has.',
      ),
    );
  const has = await offsetIn(stored);
  if (!has.ok) return has;
  const before = has.value;
  const value = tidy(before + entry.value);
  const act = { machine: machineId, bench };
  const put = (to: number) => askLink({ act: 'apply', ...act, setting: OFFSET, value: to });
  const applied = await put(value);
  if (!applied.ok) return applied;
  const kept = await askLink<ReportedSetting[]>({ act: 'store', ...act });
  const seen = kept.ok && kept.value.find(({ setting }) => setting === OFFSET);
  if (!kept.ok || !seen || !holds(seen, value, bench)) {
    const back = await put(before);
    const so = back.ok
      ? `It has ${short(before)} mm again.`
      : 'It may stand at another height now.';
    const why = kept.ok ? '' : `: ${kept.problems[0]!.what}`;
    const what = `${bench.machine.name} did not store ${signed(entry.value)} mm${why} ${so}`;
    return fail(problem('machine', what, 'Look at the machine, then try once more.'));
  }
  const at = now();
  db.transaction(() => {
    wires.put({ machineId, setting: OFFSET, value, before, simulated, at });
    markStored(stored, kept.value, simulated);
    ledger.carry(entry.id, at);
  })();
  revalidatePath('/', 'layout');
  return ok(null);
}
