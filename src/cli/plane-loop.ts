/** `ash loop` of a grid: one print a machine, both settings told, and what the print takes beside two ladders. */

import type { Bench } from '../core/bench/bench';
import { settingInfo } from '../core/bench/settings';
import type { LadderKind } from '../core/ladders/types';
import { short } from '../core/numbers';
import { PlaneLoop, type PlaneTrial } from '../rehearsal/plane-loop';
import { must, print } from './io';
import { holds, within } from './loop';

export function rehearseGrid(
  kind: LadderKind,
  bench: Bench,
  seeds: readonly number[],
  json: boolean,
): void {
  const loop = must(PlaneLoop.on(kind, bench));
  const trials = seeds.map((seed) => {
    const trial = must(loop.trial(seed));
    if (!json) print(trialLine(trial));
    return trial;
  });
  const { cost, singles } = loop;
  const shares = singles && {
    minutes: cost.minutes / singles.minutes,
    grams: cost.grams / singles.grams,
  };
  const s = sums(trials);
  if (json) return print(JSON.stringify({ kind: kind.id, trials, ...s, cost, singles, shares }));
  const { count } = s;
  print(`${s.both} of ${count} with both values within one step of the truth`);
  for (const { setting, step, withValue, withinStep, rangeHolds } of s.sides) {
    const { title, unit } = settingInfo(setting);
    print(
      `${title}: ${withValue} of ${count} with a value, ${withinStep} within one step (${short(step)} ${unit}), ` +
        `${rangeHolds} of ${withValue} ranges hold the truth`,
    );
  }
  print(
    `${short(cost.minutes, 0)} min and ${short(cost.grams, 1)} g a grid` +
      (shares
        ? `: ${short(shares.minutes, 2)} of the time and ${short(shares.grams, 2)} of the plastic of the two ladders`
        : ''),
  );
}

/** How often, of all trials. */
function sums(trials: readonly PlaneTrial[]) {
  const near = ({ sides }: PlaneTrial, i: number) =>
    within(sides[i]!.value, sides[i]!.truth, sides[i]!.step);
  return {
    count: trials.length,
    both: trials.filter((one) => near(one, 0) && near(one, 1)).length,
    sides: [0, 1].map((i) => {
      const found = trials.filter(({ sides }) => sides[i]!.value !== null);
      return {
        setting: trials[0]!.sides[i]!.setting,
        step: trials[0]!.sides[i]!.step,
        withValue: found.length,
        withinStep: trials.filter((one) => near(one, i)).length,
        rangeHolds: found.filter(({ sides }) => holds(sides[i]!.range, sides[i]!.truth)).length,
      };
    }),
  };
}

function trialLine({ seed, verdict, sides, minutes, grams }: PlaneTrial): string {
  const said = sides.map(({ setting, truth, value, range }) => {
    const { unit } = settingInfo(setting);
    const found = value === null ? 'no value' : `found ${short(value, 3)}`;
    const within = range
      ? `, range ${short(range[0], 3)} to ${short(range[1], 3)}${holds(range, truth) ? '' : ' MISSES'}`
      : '';
    return `truth ${short(truth, 3)} ${unit}, ${found}${within}`;
  });
  return [
    `seed ${seed}`,
    ...said,
    verdict,
    `${Math.round(minutes)} min, ${short(grams, 1)} g`,
  ].join(' · ');
}
