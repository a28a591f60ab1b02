/** Makes a kind of tower: what it says of its form is all that checking, planning and drawing need. */

import type { Bench } from '../bench/bench';
import { heightOf, rungsIn, towerChecks, towerPlan, type Tower } from './tower';
import type { LadderKind } from './types';

/** A kind that is told by its tower; its `check` says only what no other tower has to keep to. */
export type TowerKind<Spec extends object> = Omit<LadderKind<Spec>, 'plan' | 'draft'> & {
  tower(spec: Spec, bench: Bench): Tower;
};

export function towerKind<Spec extends object>({
  tower,
  ...kind
}: TowerKind<Spec>): LadderKind<Spec> {
  return {
    ...kind,
    check: (spec, bench) => [...kind.check(spec, bench), ...towerChecks(tower(spec, bench), bench)],
    plan: (spec, bench, memory) => towerPlan(tower(spec, bench), bench, memory),
    draft(spec, bench) {
      const one = tower(spec, bench);
      const { grid, rungs } = one;
      return { layers: one.layers(), rungs: rungsIn(one), height: heightOf(grid, rungs.length) };
    },
  };
}
