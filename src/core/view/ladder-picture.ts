/** The drawing that stands at the left of every screen: a ladder seen from the front, coloured by value. */

import { beadWidthOf } from '../deposit/conditions';
import { printBox } from '../gcode/print-box';
import type { Trace } from '../gcode/trace';
import type { PlanFile } from '../ladders/plan-file';
import type { Setting } from '../settings';
import { drawElevation, shadeElevation, type Frame } from './elevation';

export type Picture = {
  width: number;
  height: number;
  pxPerMm: number;
  rgba: Uint8ClampedArray<ArrayBuffer>;
};

/** What a picture of a ladder shows, mm: the form without prime line and skirt, which would make it small. */
export function frameOf(trace: Trace, plan: PlanFile): Frame {
  const box = printBox(trace, plan.rungs[0]!.z.from / 2);
  const { height } = plan;
  return box ? { minX: box.minX - 1, maxX: box.maxX + 1, height } : { minX: 0, maxX: 1, height };
}

/** The base stays plain. */
export function ladderPicture(trace: Trace, plan: PlanFile, pxPerMm: number): Picture {
  const setting = Object.keys(plan.rungs[0]!.set)[0] as Setting;
  const frame = frameOf(trace, plan);
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
