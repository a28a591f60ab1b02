/**
 * `npm run shakes`: a hundred hidden machines shaken, recorded and analysed, and a hundred made-up records of known truth;
 * how often what is found is as near as is asked for. Too slow for every test run.
 */

import { benchFor } from '../src/core/testing';
import { MACHINES } from '../src/core/bench/presets';
import { analyse } from '../src/core/shake/analyse';
import { UNITS, GRAVITY } from '../src/core/shake/record';
import { asText, felt, type Mode } from '../src/core/shake/testing/made-up';
import { seeded } from '../src/core/random';
import { isNear, shakeTrial } from '../src/rehearsal/shake-loop';

const print = (line: string) => process.stdout.write(`${line}\n`);
const [from = '5001', count = '100'] = process.argv.slice(2);
const names = Object.keys(MACHINES) as (keyof typeof MACHINES)[];

const near = { hz: 0, damping: 0, acceleration: 0 };
let [ranges, refused] = [0, 0];
for (let i = 0; i < Number(count); i++) {
  const seed = Number(from) + i;
  const axis = i % 2 === 0 ? 'x' : 'y';
  const trial = shakeTrial(benchFor(names[i % names.length]), seed, axis);
  if (!trial.ok) {
    refused++;
    print(`seed ${seed}: ${trial.problems.map(({ what }) => what).join(' ')}`);
    continue;
  }
  const is = isNear(trial.value);
  for (const key of Object.keys(near) as (keyof typeof near)[]) near[key] += Number(is[key]);
  const { truth, peak, found } = trial.value;
  const [low, high] = found.range!.hz;
  if (truth.hz >= low && truth.hz <= high) ranges++;
  if (!is.hz || !is.damping || !is.acceleration)
    print(
      `seed ${seed}: ${peak.hz.toFixed(1)} Hz, damping ${peak.damping.toFixed(3)}, ${found.proposal!.acceleration} mm/s²; truth ${truth.hz.toFixed(1)}, ${truth.damping.toFixed(3)}, ${truth.acceleration.toFixed(0)}`,
    );
}
print(
  `hidden machines, of ${count}: frequency ${near.hz}, damping ${near.damping}, acceleration within 15 % ${near.acceleration}, range of the frequency holds ${ranges}, refused ${refused}`,
);

const made = { hz: 0, damping: 0, refused: 0 };
for (let i = 0; i < Number(count); i++) {
  const random = seeded(Number(from) + i);
  const [hz, damping] = [22 + 68 * random(), 0.02 + 0.12 * random()];
  const modes: Mode[] = [{ hz, damping, share: 1 }];
  if (i % 2 === 1) {
    modes[0]!.share = 0.72;
    modes.push({ hz: hz * (1.5 + 0.6 * random()), damping: 0.03 + 0.06 * random(), share: 0.28 });
  }
  const rate = [400, 800, 1600, 3200][i % 4]!;
  const per = { g: GRAVITY, 'm/s²': 1000, 'mm/s²': 1, mg: GRAVITY / 1000 }[UNITS[i % 4]!];
  const columns = felt({
    modes,
    rate,
    noise: 40 + 300 * random(),
    pace: 1.5 + 2 * random(),
    seed: i,
  });
  const order = [0, 1, 2, 3].sort(() => random() - 0.5);
  const header = ['time', 'x', 'y', 'z'];
  const text = asText(columns, rate, {
    per,
    order,
    header: order.map((k) => header[k]!),
    milliseconds: i % 3 === 0,
    by: [',', ';', '\t'][i % 3]!,
  });
  const found = analyse(text);
  const peak = found.peaks.find(({ of }) => of === 'axis');
  if (!peak || found.refused.length > 0) {
    made.refused++;
    print(`record ${i}: ${found.refused.map(({ what }) => what).join(' ')}`);
    continue;
  }
  const is = [
    Math.abs(peak.hz - hz) <= Math.max(0.5, 0.015 * hz),
    Math.abs(peak.damping / damping - 1) <= 0.25,
  ];
  made.hz += Number(is[0]);
  made.damping += Number(is[1]);
  if (!is[0] || !is[1])
    print(
      `record ${i}, ${rate} Hz: ${peak.hz.toFixed(1)} Hz, damping ${peak.damping.toFixed(3)}; truth ${modes.map((one) => `${one.hz.toFixed(1)}, ${one.damping.toFixed(3)}, ${one.share}`).join(' and ')}`,
    );
}
print(
  `made-up records, of ${count}: frequency ${made.hz}, damping ${made.damping}, refused ${made.refused}`,
);
