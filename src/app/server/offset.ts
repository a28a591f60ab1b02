/** The first-layer offset of the ledger, added to what a machine has: put in force, read back, stored, read again. */

import 'server-only';
import { revalidatePath } from 'next/cache';
import { holds, type ReportedSetting } from '@/core/bench/reported';
import { settingInfo, type Setting } from '@/core/bench/settings';
import { short, tidy } from '@/core/numbers';
import { fail, problem, type Result } from '@/core/result';
import type { StoredBench } from '@/store/benches';
import { askLink, isSimulated } from './link';
import { now, store } from './store';

const SETTING: Setting = 'zOffset';
/** Values put into a machine that are looked through. */
const MOST_PUTS = 500;

/**
 * What was added to a machine since a copy was printed on it, mm: an amount that was found on that copy comes on top of
 * what the machine had then, not of what it has now.
 */
export function addedSince(machineId: number, simulated: boolean, at: string): number {
  const since = store()
    .wires.puts(machineId, MOST_PUTS)
    .filter((put) => put.setting === SETTING && put.simulated === simulated)
    .filter((put) => put.at > at && put.takenBackAt === null);
  return tidy(since.reduce((sum, { value, before }) => sum + (value - (before ?? value)), 0));
}

/**
 * Files add the same amount until the machine has it, so that it is never in one without the other: it is added and
 * stored in one go, and what was there before comes back where it cannot be stored.
 */
export async function addOffset({ id, machineId, bench }: StoredBench): Promise<Result<null>> {
  const simulated = await isSimulated(machineId);
  const { ledger, wires } = store();
  const entry = ledger
    .current(id)
    .find((one) => one.setting === SETTING && one.simulated === simulated);
  if (!entry || entry.carriedAt !== null)
    return fail(
      problem('setting', 'There is nothing to add to this machine.', 'Load the page again.'),
    );
  const { name, dialect } = bench.machine;
  const { title } = settingInfo(SETTING);
  const by = `${entry.value > 0 ? '+' : ''}${short(entry.value)} mm`;
  const act = { machine: machineId, bench };
  const has = await askLink<{ settings: ReportedSetting[] }>({
    act: 'settings',
    ...act,
    stored: false,
  });
  if (!has.ok) return has;
  const seen = has.value.settings.find(({ setting }) => setting === SETTING);
  if (!seen || dialect.save === '')
    return fail(
      problem(
        'setting',
        `${name} takes no ${title} by command: it is kept in a file.`,
        `Add ${by} to the z offset in that file. Until you have, every file brings it.`,
      ),
    );
  const before = seen.value;
  const value = tidy(before + entry.value);
  const put = (to: number) => askLink({ act: 'apply', ...act, setting: SETTING, value: to });
  const applied = await put(value);
  if (!applied.ok) return applied;
  const kept = await askLink<ReportedSetting[]>({ act: 'store', ...act });
  const stored = kept.ok && kept.value.find(({ setting }) => setting === SETTING);
  if (!kept.ok || !stored || !holds(stored, value, bench)) {
    const back = await put(before);
    const so = back.ok
      ? `It has ${short(before)} mm again.`
      : 'It may stand at another height now.';
    return kept.ok
      ? fail(problem('machine', `${name} did not keep ${short(value)} mm. ${so}`, 'Try once more.'))
      : kept;
  }
  const at = now();
  store().db.transaction(() => {
    wires.put({ machineId, setting: SETTING, value, before, simulated, at });
    wires.stored(machineId);
    ledger.carry(entry.id, at);
  })();
  revalidatePath('/', 'layout');
  return { ok: true, value: null };
}
