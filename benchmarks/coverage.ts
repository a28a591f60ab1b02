/** How often the range that a finding tells holds the truth, for plain rising and falling faults. */

import { FILAMENTS, MACHINES } from '../src/core/bench/presets';
import { joinBench } from '../src/core/bench/bench';
import { makeLadder } from '../src/core/ladders/make';
import { kindOf } from '../src/core/ladders/registry';
import { normal, seeded } from '../src/core/random';
import { findBest } from '../src/core/reading/find';
import type { Score, Scores } from '../src/core/reading/types';
import { row } from './measure';

const READINGS = 150;
/** Scatter of one judgement, in scores, before it is rounded. */
const JUDGEMENT = 0.5;

/** Each criterion falls on one side, at a place and with a steepness of its own; nothing of it is physics. */
export function coverage(): void {
  const bench = joinBench(MACHINES.heron, { diameter: 0.4 }, FILAMENTS.moss);
  const kind = kindOf('temperature');
  const made = makeLadder('temperature', {}, bench);
  if (!kind.ok || !made.ok) throw new Error('no temperature ladder');
  const { plan } = made.value;
  const values = plan.rungs.map(({ set }) => set.nozzle!);
  const [low, high] = [Math.min(...values), Math.max(...values)];
  let [told, held, off] = [0, 0, 0];
  for (let seed = 1; seed <= READINGS; seed++) {
    const random = seeded(seed);
    const faults = kind.value.criteria.map((_, i) => {
      const rises = i < 2 || (i === 2 && random() < 0.5);
      const middle = rises ? random() * 0.6 - 0.1 : 0.5 + random() * 0.6;
      const width = 0.05 + 0.1 * random();
      return (value: number) =>
        4 / (1 + Math.exp(((rises ? -1 : 1) * ((value - low) / (high - low) - middle)) / width));
    });
    const weight = kind.value.criteria.map((one) => one.weight);
    const total = (value: number) =>
      faults.reduce((sum, fault, i) => sum + weight[i]! * fault(value), 0);
    let best = low;
    for (let value = low; value <= high; value += 0.1) if (total(value) > total(best)) best = value;
    const scores: Scores = Object.fromEntries(
      kind.value.criteria.map(({ name }, i) => [
        name,
        values.map((value) => {
          const score = Math.round(faults[i]!(value) + JUDGEMENT * normal(random));
          return Math.max(0, Math.min(4, score)) as Score;
        }),
      ]),
    );
    const found = findBest({ kind: kind.value, plan, bench, readings: [scores] });
    if (!found.ok || found.value.verdict !== 'value') continue;
    const [{ value: found80, range }] = found.value.values;
    const [from, to] = range!;
    told++;
    off += Math.abs(found80! - best);
    if (best >= from - 0.5 && best <= to + 0.5) held++;
  }
  row(
    'coverage of the 80 % range',
    `${held} of ${told} findings, ${((100 * held) / told).toFixed(0)} %; mean ${(off / told).toFixed(1)} °C off`,
  );
}
