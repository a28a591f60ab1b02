/** What the finding of a large grid costs: fifteen by fifteen cells, read three times. */

import { axisOf, cellsOf } from '../src/core/plan/axes';
import type { Plan } from '../src/core/plan/plan';
import { kindOf } from '../src/core/ladders/registry';
import { normal, seeded } from '../src/core/random';
import { findPlane } from '../src/core/reading/find-plane';
import type { Score } from '../src/core/reading/types';
import { demoBench } from '../src/understudy/understudies';
import { row, timed } from './measure';

const [SIDE, READINGS, BUDGET_MS] = [15, 3, 300];

export function planes(): void {
  const kind = kindOf('heat-retraction');
  if (!kind.ok) throw new Error('no grid');
  const values = (from: number, step: number) =>
    Array.from({ length: SIDE }, (_, i) => from + i * step);
  const axes = [axisOf('nozzle', values(190, 2), 'z'), axisOf('retraction', values(1, 0.3), 'x')];
  const rungs = cellsOf(axes).map(({ at, set }, index) => ({ index, at, set }));
  const random = seeded(5);
  const seen = (heat: number, mm: number): Score => {
    const hill = 4 - ((heat - 203) / 9) ** 2 - ((mm - 3) / 1.2) ** 2 + 0.5 * normal(random);
    return Math.min(4, Math.max(0, Math.round(hill))) as Score;
  };
  const readings = Array.from({ length: READINGS }, () =>
    Object.fromEntries(
      kind.value.criteria.map(({ name }) => [
        name,
        rungs.map(({ set }) => seen(set.nozzle!, set.retraction!)),
      ]),
    ),
  );
  const plan = { axes, rungs } as unknown as Plan;
  const given = { kind: kind.value, plan, bench: demoBench('heron'), readings };
  const taken = timed(() => findPlane(given, ['retraction']), 8);
  row(
    `finding of a grid of ${SIDE} × ${SIDE}, ${READINGS} readings`,
    `${taken.toFixed(0)} ms (budget ${BUDGET_MS})`,
    taken <= BUDGET_MS,
  );
}
