/** Where the rungs of a print stand along the axis that every screen shares: height, or the way from front to rear. */

import type { PlanFile, PlanRung } from '../ladders/plan-file';

/** A print as screens line things up with it; `z` of a rung is its place along the axis, mm from the lower end. */
export type Stood = { view: 'front' | 'top'; height: number; width: number; rungs: PlanRung[] };

export function stood({ view, height, width, rungs, frame }: PlanFile): Stood {
  if (view === 'front' || !frame) return { view, height, width, rungs };
  const tall = frame.maxY - frame.minY;
  return {
    view,
    height: tall,
    // A column beside a print leaves a millimetre on both sides.
    width: frame.maxX - frame.minX - 2,
    rungs: rungs.map((rung) => {
      const box = rung.boxes?.[0];
      if (!box) return rung;
      return { ...rung, z: { from: box.minY - frame.minY, to: box.maxY - frame.minY } };
    }),
  };
}
