/** What typing in the designer costs, kind by kind: every number of a spec one arrow up and one down. */

import { kinds } from '../src/core/ladders/registry';
import type { LadderKind } from '../src/core/ladders/types';
import { Designer } from '../src/core/view/designer';
import { demoBench } from '../src/understudy/understudies';
import { median, row } from './measure';

/** Pixels a millimetre, as the designer asks for. */
const PX_PER_MM = 6;
const BUDGET_MS = 100;

export function redraws(): void {
  for (const kind of kinds()) {
    const machine = (['heron', 'wren', 'otter'] as const).find(
      (one) => !kind.unfit?.(demoBench(one)),
    )!;
    const times = timesOf(kind, machine).sort((a, b) => a - b);
    const p95 = times[Math.floor(times.length * 0.95)]!;
    row(
      `redraw of ${kind.id}`,
      `median ${median(times).toFixed(0)} ms, p95 ${p95.toFixed(0)} ms (budget ${BUDGET_MS})`,
      p95 <= BUDGET_MS,
    );
  }
}

function timesOf(kind: LadderKind, machine: 'heron' | 'wren' | 'otter'): number[] {
  const bench = demoBench(machine);
  const designer = new Designer();
  const spec = kind.defaults(bench) as Record<string, number>;
  designer.design(kind.id, spec, bench, PX_PER_MM);
  const specs = Object.entries(kind.fields).flatMap(([key, { step }]) =>
    [step, -step].map((by) => ({ ...spec, [key]: Number((spec[key]! + by).toFixed(6)) })),
  );
  return specs.map((one) => {
    const start = performance.now();
    designer.design(kind.id, one, bench, PX_PER_MM);
    return performance.now() - start;
  });
}
