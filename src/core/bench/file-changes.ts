/** Lines of a machine's settings file that have to change, for machines that store nothing by command. */

import type { Dialect } from '../dialect/dialect';
import { fillTemplate, variablesOf } from '../dialect/template';
import type { ComparedSetting } from './compare';
import { sameAsPrinted, type ReportedSetting } from './reported';
import { settingInfo } from './settings';

export type FileChange = {
  setting: ComparedSetting['setting'];
  /** The line as it has to be. */
  line: string;
  /** Where it stands in the file, from 1, and what it says now; null where it was not found there. */
  at: number | null;
  now: string | null;
};

/** @param inFile what a pasted file says; null where none was pasted: then every value of the ledger is listed */
export function fileChanges(
  dialect: Dialect,
  rows: readonly ComparedSetting[],
  inFile: readonly ReportedSetting[] | null,
): FileChange[] {
  return rows.flatMap(({ setting, ledger }): FileChange[] => {
    const { row } = settingInfo(setting);
    if (ledger === null || !row) return [];
    const template = dialect.file[row.need] || dialect[row.need];
    const seen = inFile?.find((one) => one.setting === setting);
    if (seen && sameAsPrinted(seen.value, ledger)) return [];
    // What the row says besides stays as the file has it.
    const line = fillTemplate(template, { ...seen?.values, ...alike(ledger, template) });
    return line === null
      ? []
      : [{ setting, line, at: seen?.line ?? null, now: seen?.text ?? null }];
  });

  /** Every variable of a row that stands for the setting itself: one, or both axes of a jerk. */
  function alike(value: number, template: string): Record<string, number> {
    const own = variablesOf(template).filter((name) => name !== 'travel' && name !== 'damping');
    return Object.fromEntries(own.map((name) => [name, value]));
  }
}
