/** `ash settings`, `ash put`: what a machine has, and putting values into it, without an interface. */

import type { Command } from 'commander';
import { holds, type ReportedSetting } from '../core/bench/reported';
import type { Bench } from '../core/bench/bench';
import {
  addsUp,
  isKept,
  keptLine,
  SETTING_NAMES,
  bareValue,
  saidValue,
  settingInfo,
  type Setting,
} from '../core/bench/settings';
import { tidy } from '../core/numbers';
import { fail, ok, problem, type Result } from '../core/result';
import { parseAddress } from '../link/address';
import { Machine } from '../link/machine';
import { applySetting, fileLine, readSettings, storeSettings } from '../link/settings';
import { FINDINGS, giveUp, must, print, readBench, say } from './io';

/** Finds the machine, does something with it, and lets go of it whatever happens. */
async function onMachine<T>(to: string, act: (machine: Machine) => Promise<T>): Promise<T> {
  const address = must(parseAddress(to));
  const machine = must(await Machine.find(address), FINDINGS);
  try {
    return await act(machine);
  } finally {
    await machine.close();
  }
}

const shown = (seen: ReportedSetting | null): string =>
  seen === null ? '-' : saidValue(seen.setting, seen.value);

/** `ash settings --to tcp:127.0.0.1:4000` */
export function addSettings(program: Command): void {
  program
    .command('settings')
    .description('what a machine has in force and what it has stored, read from its own report')
    .requiredOption('--to <address>', 'tcp:HOST:PORT or serial:PATH[@SPEED]')
    .option('--json', 'as JSON')
    .action(async ({ to, json }: { to: string; json?: true }) => {
      const read = await onMachine(to, async (machine) => {
        const answer = await readSettings(machine, null, true);
        return answer.ok ? ok({ about: machine.about, ...answer.value }) : answer;
      });
      if (!read.ok) {
        if (json) print(JSON.stringify({ ok: false, problems: read.problems }, null, 2));
        giveUp(read.problems, FINDINGS);
      }
      const { about, column, settings, stored, notes } = read.value;
      const rows = settings.map((seen) => {
        const { title, unit } = settingInfo(seen.setting);
        const kept = stored?.find(({ setting }) => setting === seen.setting) ?? null;
        return { seen, kept, title, unit };
      });
      if (json)
        return print(
          JSON.stringify(
            {
              ok: true,
              address: to,
              machine: about,
              column,
              settings: rows.map(({ seen, kept, title, unit }) => ({
                setting: seen.setting,
                title,
                unit,
                inForce: seen.value,
                stored: kept?.value ?? null,
                line: seen.text,
              })),
              notes,
            },
            null,
            2,
          ),
        );
      print(`${about || 'a machine that does not say what it is'}; commands as column ${column}`);
      for (const { seen, kept, title } of rows)
        print(`${title.padEnd(22)} in force ${shown(seen).padEnd(14)} stored ${shown(kept)}`);
      for (const note of notes) say(note);
    });
}

function settingNamed(name: string): Result<Setting> {
  const known = SETTING_NAMES.filter(isKept);
  return known.includes(name as Setting)
    ? ok(name as Setting)
    : fail(
        problem(
          'SETTING',
          `There is no setting “${name.slice(0, 40)}” that a machine keeps.`,
          `Choose one of: ${known.join(', ')}.`,
        ),
      );
}

/** Further than this, mm, no first layer is off: then the bed itself wants levelling. */
const MOST_ADDED = 1;

/** What a machine has to have when an amount is added to what it has now. */
async function onTopOf(
  machine: Machine,
  setting: Setting,
  amount: number,
  bench: Bench,
): Promise<Result<number>> {
  const has = await readSettings(machine, bench.machine.dialect, false);
  if (!has.ok) return has;
  const seen = has.value.settings.find((one) => one.setting === setting);
  if (seen) return ok(tidy(seen.value + amount));
  return fail(
    problem(
      'machine',
      `Its report does not speak of a ${settingInfo(setting).title}.`,
      'See that the machine has a probe, or change it at its own screen.',
    ),
  );
}

/** A number, or the word of a choice. */
function valueIn(setting: Setting, text: string): number {
  const { choices } = settingInfo(setting);
  const chosen = choices?.findIndex((one) => one.toLowerCase() === text.trim().toLowerCase()) ?? -1;
  if (chosen >= 0) return chosen;
  const value = text.trim() === '' ? NaN : Number(text);
  return choices && choices[value] === undefined ? NaN : value;
}

type PutOptions = { bench: string; to: string; store?: true };

/** `ash put advance 0.05 --bench b.json --to tcp:127.0.0.1:4000 --store` */
export function addPut(program: Command): void {
  program
    .command('put <setting> <value>')
    .description(
      'puts a value into a machine, reads it back, and stores it where that is asked for',
    )
    .requiredOption('--bench <file>', 'bench as JSON')
    .requiredOption('--to <address>', 'tcp:HOST:PORT or serial:PATH[@SPEED]')
    .option('--store', 'keep it through switching off, and prove that')
    .action(async (name: string, text: string, given: PutOptions) => {
      const setting = must(settingNamed(name));
      const bench = must(readBench(given.bench));
      const { title, unit } = settingInfo(setting);
      const value = valueIn(setting, text);
      const adds = addsUp(setting);
      if (!(adds ? Math.abs(value) <= MOST_ADDED : value >= 0 && value <= 1e6))
        giveUp([
          problem(
            'VALUE',
            `“${text.slice(0, 40)}” is no ${title}.`,
            settingInfo(setting).choices
              ? `Give ${settingInfo(setting).choices!.join(', ')}.`
              : `Give a number in ${unit}.`,
          ),
        ]);
      if (keptLine(setting, value, bench) === null)
        giveUp([
          problem(
            'SETTING',
            `${bench.machine.name} has no command for ${title}.`,
            'Fill in its row among the machine’s commands.',
          ),
        ]);
      await onMachine(given.to, async (machine) => {
        const to = adds ? must(await onTopOf(machine, setting, value, bench), FINDINGS) : value;
        const done = must(await applySetting(machine, setting, to, bench), FINDINGS);
        const was = done.before === null ? '' : `, ${bareValue(setting, done.before)} before`;
        print(`${title} ${saidValue(setting, to)} is in force: the machine says so${was}.`);
        if (!given.store) return;
        const answer = await storeSettings(machine, bench);
        if (!answer.ok && bench.machine.dialect.save === '')
          say(`The line for its file: ${fileLine(setting, value, bench)}`);
        const kept = must(answer, FINDINGS);
        const seen = kept.find((one) => one.setting === setting);
        if (!seen || !holds(seen, to, bench))
          giveUp(
            [
              problem(
                'machine',
                `The machine says that it has stored ${seen ? bareValue(setting, seen.value) : 'nothing'} of ${title}.`,
                'Store it at the machine itself.',
              ),
            ],
            FINDINGS,
          );
        print(`${title} ${saidValue(setting, to)} is stored: the machine says so.`);
      });
    });
}
