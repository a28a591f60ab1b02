import type { Command } from 'commander';
import { joinBench, Nozzle } from '../core/bench/bench';
import { DEFAULT_NOZZLE, FILAMENTS, MACHINES, speaking } from '../core/bench/presets';
import { DIALECTS, type Column } from '../core/dialect/dialect';
import { kinds } from '../core/ladders/registry';
import { settingInfo } from '../core/bench/settings';
import { parseWith } from '../core/result';
import { must, pick, print } from './io';

/** `ash kinds` */
export function addKinds(program: Command): void {
  program
    .command('kinds')
    .description('list the kinds of ladders')
    .option('--json', 'as JSON')
    .action(({ json }: { json?: true }) => {
      const list = kinds().map(
        ({ id, title, finds, finds: [setting], criteria, measures = [] }) => ({
          id,
          title,
          setting,
          unit: settingInfo(setting).unit,
          settings: finds,
          criteria: criteria.map(({ name }) => name),
          measured: measures.map(({ label }) => label),
        }),
      );
      if (json) return print(JSON.stringify(list, null, 2));
      for (const { id, title, settings, criteria, measured } of list) {
        const units = settings.map((one) => settingInfo(one).unit).join(' and ');
        const looked =
          criteria.length > 0 ? criteria.join(', ') : `measured: ${measured.join('; ')}`;
        print(`${id.padEnd(20)} ${title}, in ${units}: ${looked}`);
      }
    });
}

/** `ash bench --preset heron --filament moss --nozzle 0.4 --dialect A` */
export function addBench(program: Command): void {
  program
    .command('bench')
    .description('print a bench made from presets, as JSON')
    .requiredOption('--preset <machine>', `machine: ${Object.keys(MACHINES).join(', ')}`)
    .option('--filament <name>', Object.keys(FILAMENTS).join(', '), 'moss')
    .option('--nozzle <mm>', 'nozzle diameter', String(DEFAULT_NOZZLE.diameter))
    .option('--dialect <column>', `commands: ${Object.keys(DIALECTS).join(', ')}`)
    .action((given: { preset: string; filament: string; nozzle: string; dialect?: string }) => {
      const machine = must(pick('--preset', MACHINES, given.preset));
      const filament = must(pick('--filament', FILAMENTS, given.filament));
      const nozzle = must(parseWith(Nozzle, { diameter: Number(given.nozzle) }, '--nozzle'));
      const column = given.dialect?.toUpperCase();
      if (column) must(pick('--dialect', DIALECTS, column));
      const told = column ? speaking(machine, column as Column) : machine;
      print(JSON.stringify(joinBench(told, nozzle, filament), null, 2));
    });
}
