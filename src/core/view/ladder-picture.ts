/** The drawing that stands at the left of every screen: a ladder seen from the front, coloured by value. */

import { beadWidthOf } from '../deposit/conditions';
import { printBox } from '../gcode/print-box';
import type { Trace } from '../gcode/trace';
import type { PlanFile } from '../ladders/plan-file';
import type { Setting } from '../settings';
import { drawElevation, shadeElevation } from './elevation';

export type Picture = {
  width: number;
  height: number;
  pxPerMm: number;
  rgba: Uint8ClampedArray<ArrayBuffer>;
};

/** Draws only what belongs to the form: prime line and skirt would make it small. The base stays plain. */
export function ladderPicture(trace: Trace, plan: PlanFile, pxPerMm: number): Picture {
  const setting = Object.keys(plan.rungs[0]!.set)[0] as Setting;
  const base = plan.rungs[0]!.z.from;
  const box = printBox(trace, base / 2);
  const frame = box
    ? { minX: box.minX - 1, maxX: box.maxX + 1, height: plan.height }
    : { minX: 0, maxX: 1, height: plan.height };
  const bead = beadWidthOf(plan.bench.nozzle.diameter);
  const drawn = drawElevation(trace, frame, plan.layerHeight, bead, setting, pxPerMm);
  const values = plan.rungs.map(({ set }) => set[setting]!);
  const { width, height } = drawn;
  return {
    width,
    height,
    pxPerMm: drawn.pxPerMm,
    rgba: shadeElevation(drawn, values, plan.layerHeight),
  };
}
