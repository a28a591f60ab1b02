/** Which values of the ledger a proof speaks of. */

import 'server-only';
import type { Proposal } from '@/core/reading/finding';
import { settingInfo } from '@/core/bench/settings';
import type { Entry } from '@/store/ledger';

/** Entries that hold what a set had, of the real machine or of a simulated one. */
export const provenIn = (
  entries: readonly Entry[],
  values: readonly Proposal[],
  simulated: boolean,
): Entry[] =>
  entries.filter((entry) =>
    values.some(
      ({ setting, value }) =>
        value !== null &&
        entry.setting === setting &&
        entry.simulated === simulated &&
        Math.abs(entry.value - value) < settingInfo(setting).resolution / 2,
    ),
  );
