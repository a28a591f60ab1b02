/**
 * What typing in the designer costs, kind by kind: every number of a spec one arrow up and one down. The drawing
 * is what must not wait; where it is drafted from the form, the proved file with its figures follows behind.
 */

import { kinds } from '../src/core/ladders/registry';
import type { LadderKind } from '../src/core/ladders/types';
import { Designer } from '../src/core/view/designer';
import { draftView } from '../src/core/view/draft';
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
    const files = timesOf(kind, machine, fileMaker());
    const drawn = kind.draft ? timesOf(kind, machine, draftView) : files;
    const p95 = late(drawn);
    row(
      `redraw of ${kind.id}`,
      `median ${median(drawn).toFixed(0)} ms, p95 ${p95.toFixed(0)} ms (budget ${BUDGET_MS})` +
        (kind.draft
          ? `; its file after ${median(files).toFixed(0)} ms, p95 ${late(files).toFixed(0)} ms`
          : ''),
      p95 <= BUDGET_MS,
    );
  }
}

const late = (sorted: readonly number[]): number => sorted[Math.floor(sorted.length * 0.95)]!;

/** A designer that has seen nothing yet. */
const fileMaker = (): typeof Designer.prototype.design => {
  const designer = new Designer();
  return (...args) => designer.design(...args);
};

type Draw = (...args: Parameters<typeof draftView>) => unknown;

/** Sorted times of all changes, ms, after one round that warms the engine but not the memory. */
function timesOf(kind: LadderKind, machine: 'heron' | 'wren' | 'otter', draw: Draw): number[] {
  const bench = demoBench(machine);
  const spec = kind.defaults(bench) as Record<string, number>;
  const specs = Object.entries(kind.fields).flatMap(([key, { step }]) =>
    [step, -step].map((by) => ({ ...spec, [key]: Number((spec[key]! + by).toFixed(6)) })),
  );
  const warm = fileMaker();
  for (const one of specs) warm(kind.id, one, bench, PX_PER_MM);
  draw(kind.id, spec, bench, PX_PER_MM);
  return specs
    .map((one) => {
      const start = performance.now();
      draw(kind.id, one, bench, PX_PER_MM);
      return performance.now() - start;
    })
    .sort((a, b) => a - b);
}
