'use server';

import { z } from 'zod';
import { kindOf } from '@/core/ladders/registry';
import { short } from '@/core/numbers';
import { ok, type Answer } from '@/core/result';
import { settingInfo } from '@/core/settings';
import { Loop } from '@/rehearsal/loop';
import { drawTruths } from '@/understudy/truths';
import { store } from '../server/store';
import { gone } from './answer';

export type Revealed = { name: string; value: string }[];

/** Tells what was hidden in the machine of a simulated print. The best value is printed for, not looked up. */
export async function revealTruths(printId: number): Promise<Answer<Revealed>> {
  const print = store().prints.get(z.number().int().parse(printId));
  const file = print && store().files.get(print.fileId);
  const kind = file ? kindOf(file.plan.kind) : null;
  if (!print?.simulated || !file || !kind?.ok) return gone('print');
  const { bench } = file.plan;
  const loop = Loop.on(kind.value, bench);
  if (!loop.ok) return loop;
  const truths = drawTruths(bench, print.simulated.seed);
  const best = loop.value.truth(truths);
  if (!best.ok) return best;
  const { title, unit, decimals } = settingInfo(kind.value.setting);
  const deg = (value: number) => `${short(value, 1)} °C`;
  return ok([
    {
      name: `Best ${title}, by a fine ladder and no eye`,
      value: `${short(best.value, decimals + 1)} ${unit}`,
    },
    { name: 'The melt is hotter than the sensor says by', value: deg(truths.sensor) },
    { name: 'Threads are drawn above', value: deg(truths.hairsFrom - truths.sensor) },
    { name: 'Layers bond above', value: deg(truths.bondsAt - truths.sensor) },
    { name: 'It shines above', value: deg(truths.shinesAt - truths.sensor) },
    { name: 'Pressure lags by', value: `${short(truths.lag, 3)} s` },
    { name: 'Retraction is felt after', value: `${short(truths.slack, 2)} mm` },
    { name: 'Most that is melted', value: `${short(truths.melts, 1)} mm³/s` },
    {
      name: 'The axes ring at',
      value: `${short(truths.resonance.x, 0)} and ${short(truths.resonance.y, 0)} Hz`,
    },
    { name: 'The feeder moves', value: `${short(truths.feeds * 100, 1)} mm for 100` },
  ]);
}
