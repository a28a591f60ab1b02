/** A file printed on a simulated machine, with what its instruments measure and what it looks like. */

import type { Bench } from '../core/bench/bench';
import type { Trace } from '../core/gcode/trace';
import { kindFor } from '../core/ladders/registry';
import type { Plan } from '../core/plan/plan';
import { sightOf } from '../core/view/ladder-picture';
import { drawPrint, FILAMENT_COLOURS } from '../understudy/picture';
import { printTrace } from '../understudy/print';
import { drawTruths } from '../understudy/truths';
import { measure } from './instruments';

type Task = {
  trace: Trace;
  bench: Bench;
  plan: Plan;
  seed: number;
  colour: string;
  /** The machine's own first-layer offset, mm upward. */
  raised?: number;
};

/** @param progress told shares from 0 to 1 of the printing */
export function simulatedPrint(
  { trace, bench, plan, seed, colour, raised = 0 }: Task,
  progress: (share: number) => void = () => undefined,
) {
  const printed = printTrace(trace, bench, drawTruths(bench, seed), { progress, raised });
  if (printed.failed) return { failed: printed.failed, seconds: printed.seconds };
  const kind = kindFor(plan);
  const keys = kind.ok ? (kind.value.measures ?? []).map(({ key }) => key) : [];
  const picture = drawPrint(printed, {
    view: plan.view,
    frame: sightOf(trace, plan),
    filament: FILAMENT_COLOURS[colour] ?? FILAMENT_COLOURS.moss,
  });
  const measured = measure(keys, printed, plan, seed);
  return { failed: null, picture, measured, seconds: printed.seconds };
}
