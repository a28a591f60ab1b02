/** What a machine's own report, or its settings file, holds of each setting of a bench. */

import { DIALECTS, type Column, type Dialect, type Need } from '../dialect/dialect';
import { parseCommand } from '../dialect/command';
import { sightings, stripped } from '../dialect/report';
import { matchCommand, matcherOf, type Values as RowValues } from '../dialect/template';
import type { Bench } from './bench';
import {
  addsUp,
  keptOffset,
  ownVariables,
  SETTING_NAMES,
  settingInfo,
  type Setting,
  type Values,
} from './settings';

export type ReportedSetting = {
  setting: Setting;
  value: number;
  /** Everything that its row states, such as both axes of a jerk. */
  values: RowValues;
  /** Line of the report, from 1, and the line itself. */
  line: number;
  text: string;
};

/** Rounding of what machines print, as a share of the value and as an amount. */
const PRINTED_SHARE = 2e-3;
const PRINTED_AMOUNT = 6e-4;

export const sameAsPrinted = (a: number, b: number): boolean =>
  Math.abs(a - b) <= Math.max(PRINTED_AMOUNT, PRINTED_SHARE * Math.max(Math.abs(a), Math.abs(b)));

/** The settings that a report states; of one that stands there twice, the last. */
export function settingsIn(dialect: Dialect, report: string): ReportedSetting[] {
  const seen = sightings(dialect, report);
  return SETTING_NAMES.flatMap((setting) => {
    const { row } = settingInfo(setting);
    if (addsUp(setting)) return offsetIn(setting, dialect, report);
    if (!row) return [];
    const of = seen.filter(({ need, values }) => need === row.need && row.own in values);
    const last = of.at(-1);
    if (!last) return [];
    const values = Object.assign({}, ...of.map((one) => one.values)) as RowValues;
    return [{ setting, value: values[row.own]!, values, line: last.line, text: last.text }];
  });
}

/** What a report says, setting by setting. */
export const valuesOf = (seen: readonly ReportedSetting[]): Values =>
  Object.fromEntries(seen.map(({ setting, value }) => [setting, value]));

/** What a machine keeps of a setting that files add to. */
function offsetIn(setting: Setting, dialect: Dialect, report: string): ReportedSetting[] {
  const matcher = matcherOf(keptOffset(dialect) ?? '');
  if (!matcher) return [];
  return report
    .split('\n')
    .flatMap((raw, index): ReportedSetting[] => {
      const command = parseCommand(stripped(raw));
      const values = command && matchCommand(matcher, command);
      if (!values || values.offset === undefined) return [];
      return [{ setting, value: values.offset, values, line: index + 1, text: raw.trim() }];
    })
    .slice(-1);
}

/** Whether a report holds a value as a bench would command it, in every variable of its row. */
export function holds(seen: ReportedSetting, value: number, bench: Bench): boolean {
  const { row } = settingInfo(seen.setting);
  if (addsUp(seen.setting)) return sameAsPrinted(seen.value, value);
  if (!row) return false;
  // What the row commands besides, such as the acceleration of travel, may be rounded or capped by the machine.
  const wanted = row.values(value, bench);
  return ownVariables(row).every(
    (name) => name in seen.values && sameAsPrinted(seen.values[name]!, wanted[name]!),
  );
}

/** The usual set of commands that a report speaks; null where it speaks of nothing that is known. */
export function columnIn(report: string): Column | null {
  const scored = (Object.keys(DIALECTS) as Column[]).map((column) => {
    const needs = new Set<Need>(sightings(DIALECTS[column], report).map(({ need }) => need));
    return { column, count: needs.size };
  });
  const most = Math.max(...scored.map(({ count }) => count));
  if (most === 0) return null;
  const best = scored.filter(({ count }) => count === most).map(({ column }) => column);
  // Where both models of corners are stated, the deviation is the one in use, unless it is nothing.
  const deviation = settingsIn(DIALECTS.B, report).find(({ setting }) => setting === 'deviation');
  if (best.includes('B') && deviation && deviation.value > 0) return 'B';
  return best[0]!;
}

/** Lines of a report that are commands which set something: what restores a machine as it was. */
export function restoring(report: readonly string[]): string[] {
  return report.flatMap((raw) => {
    const text = raw.replace(/^\s*(?:echo:|recv:)\s*/i, '').replace(/\s*;.*$/, '');
    return /^[MG]\d+ +[A-Z]/.test(text) ? [text.trim()] : [];
  });
}
