/** Where a sliced print passes from one section to another, and where in the text a change may stand. */

import { MOVE, type Trace } from '../gcode/trace';
import { firstStroke } from '../gcode/print-start';
import { WRITTEN_MM } from '../numbers';
import { spiralsIn } from '../view/spirals';
import type { Strata } from './strata';

/** A change of section: before which line it stands, and the first stroke after it. */
export type Crossing = {
  /** The section that begins, from 0; −1 for what stands below all of them. */
  section: number;
  line: number;
  /** First stroke of what begins, and last one of what ends (−1 at the start), as indices of moves. */
  stroke: number;
  last: number;
};

export type Crossings = {
  crossings: Crossing[];
  /** First line after everything that is laid. */
  end: number;
};

/**
 * Heights at which sections begin, moved to the foot of the layer that is nearest: a value cannot change within one.
 * A spiral has no layers; there it changes on the way.
 */
export function atLayers(trace: Trace, { top }: Strata, heights: readonly number[]): number[] {
  const spirals = spiralsIn(trace);
  return heights.map((height) => {
    const turning = spirals.some(
      ({ low, to }) => height > low + WRITTEN_MM && height <= trace.moves.z[to]!,
    );
    if (turning) return height;
    let best = 0;
    for (const z of top) if (Math.abs(z - height) < Math.abs(best - height)) best = z;
    return best;
  });
}

/** The section of a height: the last one that begins below it. */
export function sectionFinder(from: readonly number[]): (z: number) => number {
  return (z) => {
    let section = -1;
    while (section + 1 < from.length && z > from[section + 1]! + WRITTEN_MM) section++;
    return section;
  };
}

/** @param from heights at which sections begin, rising, mm */
export function crossingsIn(trace: Trace, from: readonly number[]): Crossings {
  const { moves } = trace;
  const sectionOf = sectionFinder(from);
  const crossings: Crossing[] = [];
  let section = -1;
  let last = -1;
  for (let i = Math.max(0, firstStroke(trace)); i < moves.count; i++) {
    if (moves.kind[i] !== MOVE.extrude) continue;
    const now = sectionOf(moves.z[i]!);
    // A line that makes several moves, such as an arc that climbs, is not cut: the next one is the first.
    if (now !== section && (last === -1 || moves.line[last] !== moves.line[i])) {
      crossings.push({ section: now, line: placeFor(trace, last, i), stroke: i, last });
      section = now;
    }
    last = i;
  }
  return {
    crossings,
    end: last === -1 ? trace.lines + 1 : moves.line[last]! + 1,
  };
}

/** Before the restart of the file's own retraction, so that it changes while nothing flows; else before the stroke. */
export function placeFor({ moves }: Trace, last: number, stroke: number): number {
  const from = Math.max(0, last + 1);
  let drawn = -1;
  for (let i = from; i < stroke; i++) if (moves.e[i]! < 0) drawn = i;
  for (let i = drawn + 1; drawn !== -1 && i < stroke; i++)
    if (moves.kind[i] === MOVE.restart) return moves.line[i]!;
  return moves.line[stroke]!;
}
