/** What was hidden in a simulated machine, in words; the best value is printed for, not looked up. */

import type { Bench } from '../core/bench/bench';
import type { LadderKind } from '../core/ladders/types';
import type { Plan } from '../core/plan/plan';
import { kindOf } from '../core/ladders/registry';
import { short } from '../core/numbers';
import { ok, type Result } from '../core/result';
import { settingInfo } from '../core/bench/settings';
import { drawTruths, type Truths } from '../understudy/truths';
import { Loop } from './loop';
import { PlaneLoop } from './plane-loop';

export type Revealed = { name: string; value: string }[];

export function revealed({ kind: id, bench }: Plan, seed: number): Result<Revealed> {
  const kind = kindOf(id);
  if (!kind.ok) return kind;
  // Of a form that is not ours no fine ladder can be printed.
  if (kind.value.ofFile) return ok(hiddenIn(drawTruths(bench, seed)));
  if (kind.value.rule.kind === 'plane') return together(kind.value, bench, seed);
  const loop = Loop.on(kind.value, bench);
  if (!loop.ok) return loop;
  const truths = drawTruths(bench, seed);
  const best = loop.value.truth(truths);
  if (!best.ok) return best;
  const { title, unit, decimals } = settingInfo(kind.value.finds[0]);
  const measured = kind.value.rule.kind === 'measured';
  return ok([
    {
      name: `Best ${title}, by ${measured ? 'measuring without error' : 'a fine ladder, judged by numbers'}`,
      value: `${short(best.value, decimals + 1)} ${unit}`,
    },
    ...hiddenIn(truths),
  ]);
}

/** The joint best of two settings. */
function together(kind: LadderKind, bench: Bench, seed: number): Result<Revealed> {
  const loop = PlaneLoop.on(kind, bench);
  if (!loop.ok) return loop;
  const truths = drawTruths(bench, seed);
  const best = loop.value.truth(truths);
  if (!best.ok) return best;
  const values = kind.finds.map((setting, i) => {
    const { title, unit, decimals } = settingInfo(setting);
    return {
      name: `Best ${title}, by a finer grid, judged by numbers`,
      value: `${short(best.value[i]!, decimals + 1)} ${unit}`,
    };
  });
  return ok([...values, ...hiddenIn(truths)]);
}

/** What a simulated machine is like, whatever was printed. */
function hiddenIn(truths: Truths): Revealed {
  const deg = (value: number) => `${short(value, 1)} °C`;
  return [
    { name: 'The nozzle is hotter than its sensor says by', value: deg(truths.sensor) },
    { name: 'It strings above', value: deg(truths.stringsFrom - truths.sensor) },
    { name: 'Layers bond above', value: deg(truths.bondsAt - truths.sensor) },
    { name: 'It shines above', value: deg(truths.shinesAt - truths.sensor) },
    { name: 'Pressure lags by', value: `${short(truths.lag, 3)} s` },
    { name: 'Retraction is felt after', value: `${short(truths.slack, 2)} mm` },
    { name: 'Melts at most', value: `${short(truths.melts, 1)} mm³/s` },
    {
      name: 'The axes ring at',
      value: `${short(truths.resonance.x, 0)} and ${short(truths.resonance.y, 0)} Hz`,
    },
    { name: 'The extruder moves', value: `${short(truths.feeds * 100, 1)} mm for 100` },
  ];
}
