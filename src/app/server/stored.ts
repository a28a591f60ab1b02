/** What a machine has stored, as its report said after storing, held against what was put there and what was found. */

import 'server-only';
import { holds, type ReportedSetting } from '@/core/bench/reported';
import { addsUp } from '@/core/bench/settings';
import type { StoredBench } from '@/store/benches';
import { now, store } from './store';

/** Marks what the report shows to be stored with the value that it should have; a setting that it only names is none. */
export function markStored(
  { id, machineId, bench }: StoredBench,
  report: readonly ReportedSetting[],
  simulated: boolean,
): void {
  const { wires, ledger } = store();
  const has = (setting: string, value: number) => {
    const seen = report.find((one) => one.setting === setting);
    return seen !== undefined && holds(seen, value, bench);
  };
  for (const put of wires.inForce(machineId)) if (has(put.setting, put.value)) wires.stored(put.id);
  if (simulated) return;
  for (const entry of ledger.current(id))
    // What adds up with files is in the machine once it was added, not when something is stored.
    if (
      !entry.simulated &&
      !addsUp(entry.setting) &&
      entry.carriedAt === null &&
      has(entry.setting, entry.value)
    )
      ledger.carry(entry.id, now());
}
