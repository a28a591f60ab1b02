/** `ash loop` of a map: how near each cell comes to its truth, by the fit and by itself. */

import type { Bench } from '../core/bench/bench';
import type { LadderKind } from '../core/ladders/types';
import { quantile, short } from '../core/numbers';
import { costOf, MapLoop, offOf, type MapTrial } from '../rehearsal/map-loop';
import { must, print } from './io';
import { holds } from './loop';

export function rehearseMap(
  kind: LadderKind,
  bench: Bench,
  seeds: readonly number[],
  json: boolean,
): void {
  const loop = must(MapLoop.on(kind, bench));
  const trials = seeds.map((seed) => {
    const trial = must(loop.trial(seed));
    if (!json) print(trialLine(trial));
    return trial;
  });
  const cells = trials.flatMap((one) => one.cells);
  const [byFit, alone] = [offOf(cells, ({ found }) => found), offOf(cells, ({ read }) => read)];
  const s = {
    count: trials.length,
    cells: cells.length,
    medianOff: quantile(byFit, 0.5),
    medianOffAlone: quantile(alone, 0.5),
    /** Machines whose own median is within a tenth. */
    withinTenth: trials.filter((one) => medianOff(one) <= 0.1).length,
    rangeHolds: cells.filter(({ range, truth }) => holds(range, truth)).length,
    ...costOf(trials),
  };
  if (json) return print(JSON.stringify({ kind: kind.id, trials, ...s }));
  const percent = (share: number) => `${short(100 * share, 1)} %`;
  print(
    `median error over ${s.cells} cells: ${percent(s.medianOff)} by the fit, ${percent(s.medianOffAlone)} by each cell alone`,
  );
  print(`${s.withinTenth} of ${s.count} machines with a median within 10 %`);
  print(`${s.rangeHolds} of ${s.cells} ranges hold the truth (80 % is what they say)`);
  print(
    `${short(s.minutes, 0)} min and ${short(s.grams, 1)} g a machine, in ${short(s.prints, 1)} prints`,
  );
}

const medianOff = ({ cells }: MapTrial): number =>
  quantile(
    offOf(cells, ({ found }) => found),
    0.5,
  );

function trialLine(trial: MapTrial): string {
  const { seed, verdict, single, cells, prints, minutes, grams } = trial;
  const truths = cells.map(({ truth }) => truth);
  return [
    `seed ${seed}`,
    `truth ${short(Math.max(...truths), 3)} to ${short(Math.min(...truths), 3)} s`,
    `${short(100 * medianOff(trial), 1)} % off at the median`,
    single === null ? verdict : `one value ${short(single, 3)}`,
    `${prints} prints, ${Math.round(minutes)} min, ${short(grams, 1)} g`,
  ].join(' · ');
}
