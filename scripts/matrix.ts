/**
 * `npm run matrix [kind]`: every kind on every machine, in every dialect, with three nozzles and both strands. Each
 * file is made twice; a finding or warning above a note, or a byte that differs, is told, and the exit is 1.
 */

import { joinBench } from '../src/core/bench/bench';
import { FILAMENTS, MACHINES, speaking, type MachinePreset } from '../src/core/bench/presets';
import { DIALECTS, type Column } from '../src/core/dialect/dialect';
import { makeLadder } from '../src/core/ladders/make';
import { kinds } from '../src/core/ladders/registry';

const [only = ''] = process.argv.slice(2);
const BORES = [0.2, 0.4, 1];
const STRANDS = [1.75, 2.85];

const benches = (Object.keys(MACHINES) as MachinePreset[]).flatMap((machine) =>
  (Object.keys(DIALECTS) as Column[]).flatMap((column) =>
    BORES.flatMap((bore) =>
      STRANDS.map((strand) => ({
        title: `${machine}, ${column}, ${bore} mm, strand ${strand}`,
        bench: joinBench(
          speaking(MACHINES[machine], column),
          { diameter: bore },
          { ...FILAMENTS.moss, diameter: strand },
        ),
      })),
    ),
  ),
);

let faults = 0;
const fault = (text: string) => {
  faults++;
  console.log(`  ${text}`);
};

for (const kind of kinds().filter(({ id }) => id.startsWith(only))) {
  const fitting = benches.filter(({ bench }) => !kind.unfit?.(bench));
  for (const { title, bench } of fitting) {
    const made = makeLadder(kind.id, {}, bench);
    if (!made.ok) {
      fault(`${kind.id}, ${title}: ${made.problems.map(({ what }) => what).join(' ')}`);
      continue;
    }
    const { warnings, audit, text } = made.value;
    for (const { grade, what } of [...warnings, ...audit.findings])
      if (grade !== 'note') fault(`${kind.id}, ${title}: ${grade}: ${what}`);
    const again = makeLadder(kind.id, {}, bench);
    if (!again.ok || again.value.text !== text) fault(`${kind.id}, ${title}: other bytes`);
  }
  console.log(`${kind.id}: ${fitting.length} benches of ${benches.length}, each made twice`);
}
console.log(faults === 0 ? 'no finding above a note' : `${faults} faults`);
process.exit(faults === 0 ? 0 : 1);
