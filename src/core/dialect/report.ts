/** Settings reports: what a machine prints when asked for its settings, or what its settings file says. */

import { parseCommand } from './command';
import { NEED_NAMES, settingReader, type Dialect, type Need } from './dialect';
import { entriesOf, fillTemplate, matchEntry, type Values } from './template';

export type ReportValues = Partial<Record<Need, Values>>;

/** A value in a report together with the line on which it was seen. */
export type Sighting = { need: Need; values: Values; line: number; text: string };

const FILE_LINE = /^\s*([a-z_][a-z0-9_]*)\s*[:=]\s*([\w.+-]+)\s*$/;
const CHATTER = /^\s*(?:echo:|recv:|<|\/\/|ok\b)\s*/i;

/** Writes the lines that state `values`: stored rows where the dialect has a file, commands elsewhere. */
export function reportLines(dialect: Dialect, values: ReportValues): string[] {
  return NEED_NAMES.flatMap((need) => {
    const given = values[need];
    const template = dialect.file[need] || dialect[need];
    const line = given && template ? fillTemplate(template, given) : null;
    if (line === null) return [];
    return dialect.file[need] ? entriesOf(line) : [line];
  });
}

/** A line of a report without what machines say around it. */
export const stripped = (raw: string): string => raw.replace(CHATTER, '').replace(/\s+[;#].*$/, '');

/** Every value in a pasted report, with its line. Later lines stand after earlier ones. */
export function sightings(dialect: Dialect, report: string): Sighting[] {
  const readSetting = settingReader(dialect);
  const found: Sighting[] = [];
  report.split(/\r?\n/).forEach((raw, index) => {
    const text = stripped(raw);
    const seen = { line: index + 1, text: raw.trim() };
    const command = parseCommand(text);
    if (command) for (const change of readSetting(command)) found.push({ ...change, ...seen });
    const entry = FILE_LINE.exec(text);
    if (!entry) return;
    for (const need of NEED_NAMES) {
      const values = matchEntry(dialect.file[need], entry[1]!, entry[2]!);
      if (values) found.push({ need, values, ...seen });
    }
  });
  return found;
}

/** The values in force at the end of a report: the last statement of each variable wins. */
export function readReport(dialect: Dialect, report: string): ReportValues {
  const values: ReportValues = {};
  for (const { need, values: seen } of sightings(dialect, report)) {
    values[need] = { ...values[need], ...seen };
  }
  return values;
}
