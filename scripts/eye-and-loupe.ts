/**
 * `npm run eye-and-loupe`: thirty hidden machines, each with a ladder that is scored by eye and measured on its picture;
 * how far off the truth the finding is by eye alone and by both together. Too slow for every test run.
 */

import { benchFor } from '../src/core/testing';
import { kindFor } from '../src/core/ladders/registry';
import { mean } from '../src/core/numbers';
import type { Finding } from '../src/core/reading/finding';
import { eyeAndLoupe } from '../src/rehearsal/eye-and-loupe';

const print = (line: string) => process.stdout.write(`${line}\n`);
const [from = '3001', count = '30', preset = 'heron'] = process.argv.slice(2);

const valueOf = ({ verdict, values: [{ value }] }: Finding): number | null =>
  verdict === 'value' ? value : null;

for (const id of ['temperature', 'advance-hairpins', 'nozzle-alignment']) {
  const kind = kindFor({ kind: id, spec: {} });
  if (!kind.ok) throw new Error(id);
  const bench = benchFor(preset as 'heron');
  if (id === 'nozzle-alignment') bench.machine.extruder.tools = 2;
  const off: { eye: number; both: number }[] = [];
  const holds = { eye: 0, both: 0 };
  let without = 0;
  for (let seed = Number(from); seed < Number(from) + Number(count); seed++) {
    const found = eyeAndLoupe(kind.value, bench, seed);
    if (!found.ok) {
      print(`seed ${seed}: ${found.problems.map(({ what }) => what).join(' ')}`);
      continue;
    }
    const { truth, step, eye, both } = found.value;
    const [one, two] = [valueOf(eye), valueOf(both)];
    if (one === null || two === null) {
      without++;
      continue;
    }
    off.push({ eye: Math.abs(one - truth) / step, both: Math.abs(two - truth) / step });
    const within = ({ values: [{ range }] }: Finding) =>
      range !== null && truth >= range[0] && truth <= range[1];
    holds.eye += Number(within(eye));
    holds.both += Number(within(both));
  }
  const nearer = off.filter(({ eye, both }) => both < eye - 1e-9).length;
  const further = off.filter(({ eye, both }) => both > eye + 1e-9).length;
  print(
    `${id} on ${preset}, ${off.length} of ${count} machines with a value both ways: off by ${mean(off.map(({ eye }) => eye)).toFixed(3)} steps by eye, ${mean(off.map(({ both }) => both)).toFixed(3)} by both; nearer ${nearer}, further ${further}; ranges hold ${holds.eye} and ${holds.both}; without a value ${without}`,
  );
}
