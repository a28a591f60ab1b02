/** A file printed on a simulated machine, with what its instruments measure and what it looks like. */

import type { Bench } from '../core/bench/bench';
import { settingInfo, type Setting, type Values } from '../core/bench/settings';
import type { Values as RowValues } from '../core/dialect/template';
import type { Trace } from '../core/gcode/trace';
import { kindFor } from '../core/ladders/registry';
import type { Plan } from '../core/plan/plan';
import type { Scores } from '../core/reading/types';
import { sightOf } from '../core/view/ladder-picture';
import { drawPrint, FILAMENT_COLOURS } from '../understudy/picture';
import { fedPerAsked } from '../understudy/memory';
import { scored } from '../understudy/eye';
import { printTrace, type Printed } from '../understudy/print';
import { drawTruths } from '../understudy/truths';
import { measure } from './instruments';
import { placesOf } from './places';

type Task = {
  trace: Trace;
  bench: Bench;
  plan: Plan;
  seed: number;
  colour: string;
  /** What the machine has in force of its own. */
  had?: Values;
};

/**
 * Half of a print scored by the eye of the simulated machine, every second rung from the bottom: who scores the rest
 * sees what each score adds. Empty where nothing is scored.
 */
export function halfScored(printed: Printed, plan: Plan, seed: number): Scores {
  const kind = kindFor(plan);
  const names = kind.ok ? kind.value.criteria.map(({ name }) => name) : [];
  const order = [...plan.rungs].sort((a, b) => a.z.from - b.z.from).map(({ index }) => index);
  const taken = new Set(order.filter((_, i) => i % 2 === 0));
  return Object.fromEntries(
    Object.entries(scored(printed, placesOf(plan), names, seed).scores).map(([name, scores]) => [
      name,
      scores.map((score, rung) => (taken.has(rung) ? score : null)),
    ]),
  );
}

/** Settings as the variables of the rows that command them. */
const ownRows = (had: Values): RowValues =>
  Object.fromEntries(
    (Object.entries(had) as [Setting, number][]).flatMap(([setting, value]) => {
      const { row } = settingInfo(setting);
      return row ? [[row.own, value]] : [];
    }),
  );

/** @param progress told shares from 0 to 1 of the printing */
export function simulatedPrint(
  { trace, bench, plan, seed, colour, had = {} }: Task,
  progress: (share: number) => void = () => undefined,
) {
  const truths = drawTruths(bench, seed);
  const machine = { ...truths, feeds: truths.feeds * fedPerAsked(had) };
  const printed = printTrace(trace, bench, machine, {
    progress,
    raised: had.zOffset ?? 0,
    stored: ownRows(had),
  });
  if (printed.failed) return { failed: printed.failed, seconds: printed.seconds };
  const kind = kindFor(plan);
  const keys = kind.ok ? (kind.value.measures ?? []).map(({ key }) => key) : [];
  const picture = drawPrint(printed, {
    view: plan.view,
    frame: sightOf(trace, plan),
    filament: FILAMENT_COLOURS[colour] ?? FILAMENT_COLOURS.moss,
  });
  const measured = measure(keys, printed, plan, seed);
  return { failed: null, picture, measured, printed, seconds: printed.seconds };
}
