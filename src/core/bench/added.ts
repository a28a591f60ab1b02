/** What was added to a machine of a setting that files add to, and what is left to add. */

import { tidy } from '../numbers';
import type { Setting } from './settings';

/** A value that was put into a machine, and what stood there before. */
export type PutIn = {
  setting: Setting;
  value: number;
  before: number | null;
  simulated: boolean;
  at: string;
  takenBackAt: string | null;
};

/**
 * What was added since some moment: an amount that was found on a print comes on top of what the machine had then, not
 * of what it has now. Real and simulated machines are kept apart.
 */
export function addedSince(
  puts: readonly PutIn[],
  { setting, simulated, at }: Pick<PutIn, 'setting' | 'simulated' | 'at'>,
): number {
  const since = puts.filter(
    (put) =>
      put.setting === setting &&
      put.simulated === simulated &&
      put.at > at &&
      put.takenBackAt === null,
  );
  return tidy(since.reduce((sum, put) => sum + addedBy(put), 0));
}

/** By how much a value changed what stood before it; nothing where that is not known. */
export const addedBy = ({ value, before }: Pick<PutIn, 'value' | 'before'>): number =>
  tidy(value - (before ?? value));
