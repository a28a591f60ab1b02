/** `ash loop` of a limit that moves with another setting: how near each step comes to its truth. */

import type { Bench } from '../core/bench/bench';
import { settingInfo } from '../core/bench/settings';
import type { LadderKind, LimitsRule } from '../core/ladders/types';
import { mean, short } from '../core/numbers';
import { LimitsLoop, type LimitTrial, type LimitsTrial } from '../rehearsal/limits-loop';
import { must, print } from './io';
import { holds, within } from './loop';

export function rehearseLimits(
  kind: LadderKind,
  bench: Bench,
  seeds: readonly number[],
  json: boolean,
): void {
  const loop = must(LimitsLoop.on(kind, bench));
  const rule = kind.rule as LimitsRule;
  const trials = seeds.map((seed) => {
    const trial = must(loop.trial(seed));
    if (!json) print(trialLine(trial, rule));
    return trial;
  });
  const all = trials.flatMap(({ limits, step }) => limits.map((limit) => ({ ...limit, step })));
  // Where everything is clean, or nothing, that is what has to be told.
  const known = all.filter(({ truth }) => Number.isFinite(truth));
  const ends = all.filter(({ truth }) => !Number.isFinite(truth));
  const s = {
    count: trials.length,
    limits: known.length,
    withinStep: known.filter(({ value, truth, step }) => within(value, truth, step)).length,
    rangeHolds: known.filter(({ range, truth }) => holds(range, truth)).length,
    ends: ends.length,
    endsTold: ends.filter(endTold).length,
    minutes: mean(trials.map(({ minutes }) => minutes)),
  };
  if (json) return print(JSON.stringify({ kind: kind.id, trials, ...s }));
  print(`${s.withinStep} of ${s.limits} limits within one step of the truth`);
  print(`${s.rangeHolds} of ${s.limits} ranges hold the truth (80 % is what they say)`);
  print(`${s.endsTold} of ${s.ends} steps where all is clean, or nothing, are told so`);
  print(`${short(s.minutes, 0)} min a print`);
}

/** −∞: clean from the first rung on; ∞: never. */
const endTold = ({ truth, value, open }: LimitTrial): boolean =>
  truth === Infinity ? value === null : open;

function trialLine({ seed, limits }: LimitsTrial, { of, over }: LimitsRule): string {
  const [info, other] = [settingInfo(of), settingInfo(over)];
  const said = limits.map(({ at, value, truth, open }) => {
    const is = truth === Infinity ? 'none' : truth === -Infinity ? 'all' : short(truth, 2);
    const found = value === null ? 'none' : `${open ? 'all ' : ''}${short(value, 2)}`;
    return `${short(at)} ${other.unit}: truth ${is}, found ${found}`;
  });
  return [`seed ${seed}`, `${info.title}, ${info.unit}`, ...said].join(' · ');
}
