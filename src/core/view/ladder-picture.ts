/** The drawing that stands at the left of every screen: a ladder as it is looked at, coloured by value. */

import type { Box } from '../bench/bed';
import { beadWidthOf } from '../deposit/conditions';
import { printBox } from '../gcode/print-box';
import { rungFinder } from '../gcode/rungs';
import type { Trace } from '../gcode/trace';
import { leadAt, leadValues } from '../plan/axes';
import type { Plan } from '../plan/plan';
import { drawElevation, shadeElevation, type Frame } from './elevation';
import { drawFromAbove } from './from-above';

export type Picture = {
  width: number;
  height: number;
  pxPerMm: number;
  rgba: Uint8ClampedArray<ArrayBuffer>;
};

/** What a picture of a ladder from the front shows, mm: the form without prime line and skirt. */
export function frameOf(trace: Trace, plan: Plan): Frame {
  const box = printBox(trace, plan.rungs[0]!.z.from / 2);
  return box
    ? frameOfStrokes(box.minX, box.maxX, plan.height)
    : { minX: 0, maxX: 1, height: plan.height };
}

/** A millimetre of air on both sides of what is laid. */
export const frameOfStrokes = (minX: number, maxX: number, height: number): Frame => ({
  minX: minX - 1,
  maxX: maxX + 1,
  height,
});

/** What a picture from above shows, mm on the bed. */
export const frameAbove = ({ frame, width, height }: Plan): Box =>
  frame ?? { minX: 0, minY: 0, maxX: width, maxY: height };

/** What a picture shows, as edges, from wherever the print is looked at. */
export function sightOf(trace: Trace, plan: Plan) {
  if (plan.view === 'top') {
    const { minX, maxX, minY, maxY } = frameAbove(plan);
    return { left: minX, right: maxX, bottom: minY, top: maxY };
  }
  const { minX, maxX, height } = frameOf(trace, plan);
  return { left: minX, right: maxX, bottom: 0, top: height };
}

/** Makes a function move → value of its rung, NaN for none. */
export function rungValues(trace: Trace, plan: Plan): (move: number) => number {
  const rungOf = rungFinder(plan.rungs, trace.moves);
  const { z } = trace.moves;
  // What carries the labels of a grid stands beside its cells, and prints with the values of its row.
  const beside = (move: number) =>
    plan.axes[0]?.along === 'z'
      ? plan.rungs.find((one) => z[move]! > one.z.from + 1e-6 && z[move]! <= one.z.to + 1e-6)
      : undefined;
  return (move) => {
    const rung = plan.rungs[rungOf(move)] ?? beside(move);
    return rung ? leadAt(plan, rung, trace.moves.z[move]!) : NaN;
  };
}

/** What belongs to no rung stays plain. */
export function ladderPicture(trace: Trace, plan: Plan, pxPerMm: number): Picture {
  const values = leadValues(plan);
  const valueOf = rungValues(trace, plan);
  if (plan.view === 'top')
    return drawFromAbove(
      trace,
      frameAbove(plan),
      plan.bench.filament.diameter,
      plan.layerHeight,
      valueOf,
      values,
      pxPerMm,
    );
  const bead = beadWidthOf(plan.bench.nozzle.diameter);
  const drawn = drawElevation(
    trace,
    frameOf(trace, plan),
    plan.layerHeight,
    bead,
    valueOf,
    pxPerMm,
  );
  const { width, height } = drawn;
  return {
    width,
    height,
    pxPerMm: drawn.pxPerMm,
    rgba: shadeElevation(drawn, values, plan.layerHeight),
  };
}
