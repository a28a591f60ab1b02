/** The settings of a bench side by side: what the ledger holds, what is in force in the machine, what it has stored. */

import { short } from '../numbers';
import { sameAsPrinted, type ReportedSetting } from './reported';
import { addsUp, settingInfo, SETTING_NAMES, type Setting, type Values } from './settings';

export type ComparedSetting = {
  setting: Setting;
  title: string;
  unit: string;
  ledger: number | null;
  inForce: number | null;
  /** Null where it was not read, or is not stored by command. */
  stored: number | null;
  /** What is to be done about it: nothing where both agree, or where the ledger has no say. */
  wants: 'apply' | 'store' | 'nothing';
  /** Of what files add to: the ledger's amount comes on top of what is in force, unless it has been added already. */
  adds?: 'still' | 'done';
};

/**
 * @param found what the ledger holds of this bench
 * @param stored null where it was not read
 * @param carried what the machine has of it already, of the settings that add up
 * @returns what differs first, in the order of the settings
 */
export function compareSettings(
  found: Values,
  inForce: readonly ReportedSetting[],
  stored: readonly ReportedSetting[] | null,
  carried: readonly Setting[] = [],
): ComparedSetting[] {
  const of = (list: readonly ReportedSetting[] | null, setting: Setting) =>
    list?.find((one) => one.setting === setting)?.value ?? null;
  const rows = SETTING_NAMES.flatMap((setting): ComparedSetting[] => {
    const { title, unit, row } = settingInfo(setting);
    if (!row && !addsUp(setting)) return [];
    const has = {
      ledger: found[setting] ?? null,
      now: of(inForce, setting),
      kept: of(stored, setting),
    };
    // Where the machine does not speak of it, it is a setting of other machines.
    if (has.now === null) return [];
    const shown = { setting, title, unit, ledger: has.ledger, inForce: has.now, stored: has.kept };
    const differ = (a: number | null, b: number | null) =>
      a !== null && b !== null && !sameAsPrinted(a, b);
    if (addsUp(setting)) {
      const still = has.ledger !== null && has.ledger !== 0 && !carried.includes(setting);
      const wants = still ? 'apply' : differ(has.now, has.kept) ? 'store' : 'nothing';
      return [{ ...shown, wants, ...(has.ledger ? { adds: still ? 'still' : 'done' } : {}) }];
    }
    const wants = differ(has.ledger, has.now)
      ? 'apply'
      : differ(has.ledger, has.kept)
        ? 'store'
        : 'nothing';
    return [{ ...shown, wants }];
  });
  const rank = ({ wants }: ComparedSetting) => ['apply', 'store', 'nothing'].indexOf(wants);
  return rows.sort((a, b) => rank(a) - rank(b));
}

const COUNTS = ['No', 'One', 'Two', 'Three', 'Four', 'Five', 'Six'];
const counted = (count: number, one: string, many: string): string =>
  `${COUNTS[count] ?? short(count)} ${count === 1 ? one : many}`;

/** What the comparison comes to, in a sentence. */
export function comparedInWords(rows: readonly ComparedSetting[], storedRead: boolean): string {
  const apply = rows.filter(({ wants }) => wants === 'apply').length;
  const store = rows.filter(({ wants }) => wants === 'store').length;
  const known = rows.filter(({ ledger }) => ledger !== null).length;
  const isnt = counted(apply, 'value of the ledger is', 'values of the ledger are');
  const kept = counted(store, 'is', 'are').toLowerCase();
  if (apply > 0) return `${isnt} not in the machine${store > 0 ? `; ${kept} not stored` : ''}`;
  if (store > 0)
    return `${counted(store, 'value is', 'values are')} in force in the machine, but not stored`;
  if (known === 0) return 'Nothing to compare yet: no value has been saved';
  return storedRead
    ? 'Everything in the ledger is in the machine, and stored'
    : 'Everything in the ledger is in force in the machine';
}
