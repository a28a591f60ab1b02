/** Makes a kind of tower: what it says of its form is all that checking, laying and drawing need. */

import { growBox } from '../bench/bed';
import type { Bench } from '../bench/bench';
import {
  FRAME_MARGIN,
  heightOf,
  layTower,
  levelsOf,
  rungsIn,
  towerChecks,
  type Tower,
} from './tower';
import type { LadderKind } from './types';

/** A kind that is told by its tower; its `check` says only what no other tower has to keep to. */
export type TowerKind<Spec extends object> = Omit<LadderKind<Spec>, 'lay' | 'draft'> & {
  tower(spec: Spec, bench: Bench): Omit<Tower, 'axes'>;
};

export function towerKind<Spec extends object>({
  tower,
  ...kind
}: TowerKind<Spec>): LadderKind<Spec> {
  const whole = (spec: Spec, bench: Bench): Tower => ({
    ...tower(spec, bench),
    axes: kind.axes(spec, bench),
  });
  return {
    ...kind,
    check: (spec, bench) => [...kind.check(spec, bench), ...towerChecks(whole(spec, bench), bench)],
    lay: (spec, bench, memory) => layTower(whole(spec, bench), bench, memory),
    draft(spec, bench) {
      const one = whole(spec, bench);
      return {
        axes: [...one.axes],
        layers: one.layers(),
        rungs: rungsIn(one),
        height: heightOf(one.sizes, levelsOf(one)),
        ...(one.view === 'top' ? { above: growBox(one.footprint, FRAME_MARGIN) } : {}),
      };
    },
  };
}

/**
 * The same for a form that lies on the bed: from above, the drawing is that of the file itself, unless that takes longer
 * than a drawing may wait.
 */
export function lyingKind<Spec extends object>(
  kind: TowerKind<Spec>,
  { drafted = false } = {},
): LadderKind<Spec> {
  const { draft, ...lying } = towerKind(kind);
  return drafted ? { ...lying, draft: draft! } : lying;
}
