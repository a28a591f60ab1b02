/** Lines of a machine's settings file that have to change, for machines that store nothing by command. */

import type { Dialect } from '../dialect/dialect';
import { entryOf, fillTemplate, type Values as RowValues } from '../dialect/template';
import type { ComparedSetting } from './compare';
import { sameAsPrinted, type ReportedSetting } from './reported';
import { ownVariables, settingInfo } from './settings';

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
    const values: RowValues = { ...seen?.values };
    for (const name of ownVariables(row)) values[name] = ledger;
    const line = fillTemplate(entryOf(template, row.own), values);
    return line === null
      ? []
      : [{ setting, line, at: seen?.line ?? null, now: seen?.text ?? null }];
  });
}
