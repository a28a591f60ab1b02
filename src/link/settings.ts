/** Settings of a machine: read from its own report, put in force, stored, each proven by reading again. */

import type { Bench } from '../core/bench/bench';
import {
  columnIn,
  holds,
  restoring,
  settingsIn,
  valuesOf,
  type ReportedSetting,
} from '../core/bench/reported';
import { keptLine, saidValue, settingInfo, valueLine, type Setting } from '../core/bench/settings';
import { parseCommand } from '../core/dialect/command';
import { DIALECTS, NEED_NAMES, type Column, type Dialect } from '../core/dialect/dialect';
import { entryOf, fillTemplate } from '../core/dialect/template';
import { fail, ok, problem, type Result } from '../core/result';
import type { Machine } from './machine';

/** What machines print their settings for, where the bench does not say. */
export const USUAL_REPORT = 'M503';

export type MachineSettings = {
  column: Column;
  settings: ReportedSetting[];
  /** Null where they were not asked for, or it cannot say. */
  stored: ReportedSetting[] | null;
  notes: string[];
};

const noReport = problem(
  'machine',
  'The machine does not print its settings.',
  'Paste its settings file instead, or look at its own screen.',
);

/** Lines of its report; of a machine that prints none, what its named commands say of themselves. */
async function reportOf(machine: Machine, dialect: Dialect | null): Promise<Result<string[]>> {
  const said = await machine.ask(dialect?.report || USUAL_REPORT);
  if (!said.ok) return said;
  if (columnIn(said.value.join('\n')) !== null) return said;
  const named = new Set<string>();
  const lines: string[] = [];
  for (const need of NEED_NAMES) {
    const word = parseCommand((dialect ?? DIALECTS.D)[need])?.word ?? '';
    // A command by name says what it has when it is told nothing.
    if (!/^SET_[A-Z_]+$/.test(word) || need === 'nudge' || named.has(word)) continue;
    named.add(word);
    const answer = await machine.ask(word);
    if (!answer.ok) return answer;
    lines.push(...answer.value);
  }
  return columnIn(lines.join('\n')) === null ? fail(noReport) : ok(lines);
}

/**
 * Reads what is in force, and what is stored where `withStored` asks for that. A machine prints only what is in force:
 * what it has stored is loaded, read, and everything put back as it was.
 */
export async function readSettings(
  machine: Machine,
  dialect: Dialect | null,
  withStored: boolean,
): Promise<Result<MachineSettings>> {
  const report = await reportOf(machine, dialect);
  if (!report.ok) return report;
  const text = report.value.join('\n');
  const column = columnIn(text);
  if (column === null) return fail(noReport);
  const rows = dialect ?? DIALECTS[column];
  const settings = settingsIn(rows, text);
  const none = { column, settings, stored: null };
  if (!withStored) return ok({ ...none, notes: [] });
  if (rows.save === '')
    return ok({
      ...none,
      notes: ['It keeps its settings in a file, which is not read over the wire.'],
    });
  const loaded = await machine.ask('M501');
  if (!loaded.ok) return loaded;
  const kept = await reportOf(machine, rows);
  if (!kept.ok) return kept;
  const stored = settingsIn(rows, kept.value.join('\n'));
  const had = new Set(kept.value.map(tidied));
  const back = restoring(report.value).filter((line) => !had.has(tidied(line)));
  const restored = await machine.each(back);
  if (!restored.ok) return restored;
  const notes: string[] = [];
  if (back.length > 0) {
    const after = await reportOf(machine, rows);
    if (!after.ok) return after;
    const now = new Set(after.value.map(tidied));
    const lost = restoring(report.value).filter((line) => !now.has(tidied(line)));
    if (lost.length > 0)
      notes.push(`Not as it was before the stored settings were read: ${lost.join('; ')}.`);
  }
  return ok({ column, settings, stored, notes });
}

const tidied = (line: string): string =>
  line
    .replace(/^\s*(?:echo:|recv:)\s*/i, '')
    .replace(/\s*;.*$/, '')
    .replace(/\s+/g, ' ')
    .trim();

export type Applied = { before: number | null; seen: ReportedSetting };

/** Puts a value in force and reads it back; only then it is said to be there. */
export async function applySetting(
  machine: Machine,
  setting: Setting,
  value: number,
  bench: Bench,
): Promise<Result<Applied>> {
  const { dialect } = bench.machine;
  const { title } = settingInfo(setting);
  if (keptLine(setting, value, bench) === null)
    return fail(
      problem(
        'setting',
        `${bench.machine.name} has no command for ${title}.`,
        'Fill in its row among the machine’s commands.',
      ),
    );
  const of = (settings: readonly ReportedSetting[]) =>
    settings.find((one) => one.setting === setting) ?? null;
  const before = await readSettings(machine, dialect, false);
  if (!before.ok) return before;
  // What its row says besides stays as the machine has it, where the bench does not say otherwise.
  const tuned = { ...valuesOf(before.value.settings), ...bench.tuned };
  const line = keptLine(setting, value, { ...bench, tuned })!;
  const said = await machine.ask(line);
  if (!said.ok) return said;
  const after = await readSettings(machine, dialect, false);
  if (!after.ok) return after;
  const seen = of(after.value.settings);
  if (!seen || !holds(seen, value, bench)) {
    const has = seen
      ? `it has ${saidValue(setting, seen.value)}`
      : 'it does not report this setting';
    const refused = said.value.find((one) => /error|unknown/i.test(one));
    return fail(
      problem(
        'machine',
        `${line} was sent, but ${has}${refused ? ` (“${refused.slice(0, 80)}”)` : ''}.`,
        'See whether its commands among the machine’s settings are the right ones.',
      ),
    );
  }
  return ok({ before: of(before.value.settings)?.value ?? null, seen });
}

/** Stores what is in force and proves it by loading and reading it again. @returns what is stored now */
export async function storeSettings(
  machine: Machine,
  bench: Bench,
): Promise<Result<ReportedSetting[]>> {
  const { dialect, name } = bench.machine;
  if (dialect.save === '')
    return fail(
      problem(
        'machine',
        `${name} keeps its settings in a file and stores nothing by command.`,
        'Write the line into that file; until then the value is in force until the machine is switched off.',
      ),
    );
  const saved = await machine.ask(dialect.save);
  if (!saved.ok) return saved;
  const loaded = await machine.ask('M501');
  if (!loaded.ok) return loaded;
  const report = await reportOf(machine, dialect);
  return report.ok ? ok(settingsIn(dialect, report.value.join('\n'))) : report;
}

/** The line that keeps a value in a settings file: under its own name there, or the command itself. */
export function fileLine(setting: Setting, value: number, bench: Bench): string | null {
  const { row } = settingInfo(setting);
  const template = row ? bench.machine.dialect.file[row.need] : '';
  const named =
    row && template ? fillTemplate(entryOf(template, row.own), row.values(value, bench)) : null;
  return named ?? valueLine(setting, value, bench);
}
