/** `ash print`: prints any file on a simulated machine, without an interface. */

import type { Command } from 'commander';
import { PNG } from 'pngjs';
import { CRITERION_NAMES } from '../core/criteria';
import { printBox } from '../core/gcode/print-box';
import { readBytes } from '../core/gcode/read';
import { parsePlan } from '../core/plan/plan';
import { short } from '../core/numbers';
import { problem } from '../core/result';
import { placesOf } from '../rehearsal/places';
import { recordOf, SENSOR_FAULTS, type SensorFault } from '../understudy/accelerometer';
import { scored } from '../understudy/eye';
import { look } from '../understudy/looks';
import { drawPrint, FILAMENT_COLOURS, type View } from '../understudy/picture';
import { printTrace } from '../understudy/print';
import { drawTruths } from '../understudy/truths';
import { MOST_SEED } from '../understudy/understudies';
import { benchNamed } from './loop';
import {
  Exit,
  FINDINGS,
  giveUp,
  must,
  pick,
  print,
  readBench,
  readBytesOf,
  say,
  writeWhole,
} from './io';

type Given = {
  machine: string;
  bench?: string;
  seed: string;
  out?: string;
  picture?: string;
  view: string;
  colour: string;
  reveal?: true;
  record?: string;
  fault?: string;
};

const FAULTS = Object.fromEntries(
  (Object.keys(SENSOR_FAULTS) as SensorFault[]).map((fault) => [fault, fault]),
);
const VIEWS: Record<string, View> = { front: 'front', back: 'back', top: 'top' };

export function addPrint(program: Command): void {
  program
    .command('print <file>')
    .description(
      'print a file on the understudy, a simulated machine; what it looks like, scored by an eye',
    )
    .option('--machine <name>', 'one of the demo machines', 'heron')
    .option('--bench <file>', 'a bench of your own instead, as JSON')
    .option('--seed <n>', 'which machine: the seed of what is hidden in it', '1')
    .option('--out <file>', 'where the result goes, as JSON; standard output without it')
    .option('--picture <file>', 'where a PNG of the print goes')
    .option('--view <side>', 'front, back or top', 'front')
    .option('--colour <name>', `filament: ${Object.keys(FILAMENT_COLOURS).join(', ')}`, 'moss')
    .option('--record <file>', 'where the record of an accelerometer goes while a shake file runs')
    .option('--fault <name>', `what is wrong with it: ${Object.keys(SENSOR_FAULTS).join(', ')}`)
    .option('--reveal', 'tell what is hidden in the machine as well')
    .action((path: string, given: Given) => {
      const seed = Number(given.seed);
      if (!Number.isInteger(seed) || seed < 0 || seed > MOST_SEED)
        giveUp([
          problem(
            '--seed',
            `"${given.seed}" is no seed.`,
            `Give a whole number up to ${MOST_SEED}.`,
          ),
        ]);
      const view = must(pick('--view', VIEWS, given.view));
      const filament = must(pick('--colour', FILAMENT_COLOURS, given.colour));
      const bytes = must(readBytesOf(path));
      const bench = given.bench ? must(readBench(given.bench)) : must(benchNamed(given.machine));
      const trace = readBytes(bytes, bench.machine);
      const plan = trace.planText === null ? null : parsePlan(trace.planText);
      const truths = drawTruths(bench, seed);
      if (given.record) {
        const fault = must(pick('--fault', FAULTS, given.fault ?? 'none'));
        const text = new TextDecoder().decode(bytes);
        must(writeWhole(given.record, must(recordOf(text, bench, truths, { fault }), FINDINGS)));
      }
      let told = 0;
      const printed = printTrace(trace, bench, truths, {
        progress: (share) => {
          if (share - told < 0.25) return;
          told = share;
          say(`printed ${Math.round(share * 100)} %`);
        },
      });
      const rungs = plan?.ok ? plan.value.rungs : [];
      const places = plan?.ok ? placesOf(plan.value) : [];
      const { scores } = scored(printed, places, CRITERION_NAMES, seed);
      const box = printBox(trace, view === 'top' ? 0 : 0.5);
      const tall = box ? printed.samples.z.reduce((top, z) => Math.max(top, z), 0) : 1;
      const result = {
        simulated: true,
        machine: bench.machine.name,
        seed,
        seconds: Math.round(printed.seconds),
        filament: Number(short(printed.filament, 1)),
        failed: printed.failed,
        places: rungs.map(({ index, set }, i) => ({
          rung: index,
          set,
          seen: look(printed, places[i]!),
        })),
        ...(rungs.length > 0 ? { scores } : { seen: look(printed, { z: { from: 0, to: tall } }) }),
        ...(given.reveal ? { truths } : {}),
      };
      if (given.picture && box) {
        const frame =
          view !== 'top'
            ? { left: box.minX - 1, right: box.maxX + 1, bottom: 0, top: tall + 0.5 }
            : { left: box.minX - 1, right: box.maxX + 1, bottom: box.minY - 1, top: box.maxY + 1 };
        const { rgba, width, height } = drawPrint(printed, {
          view,
          frame,
          filament,
        });
        const png = new PNG({ width, height });
        png.data = Buffer.from(rgba.buffer);
        must(writeWhole(given.picture, PNG.sync.write(png)));
      }
      const text = `${JSON.stringify(result, null, 2)}\n`;
      if (given.out) must(writeWhole(given.out, text));
      else print(text.trimEnd());
      if (printed.failed) {
        say(printed.failed);
        throw new Exit(FINDINGS);
      }
    });
}
