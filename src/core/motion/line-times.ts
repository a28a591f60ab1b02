/** When each line of a file is reached, by the planner: for telling how long a print has to go. */

import type { Trace } from '../gcode/trace';
import type { Motion } from './plan-motion';

/** Lines, ascending, and the seconds of moving until each is reached. */
export type LineTimes = { line: number[]; seconds: number[] };

/** Points that are kept: more are not seen on a bar. */
const POINTS = 400;

export function lineTimes({ moves, lines }: Trace, motion: Motion): LineTimes {
  const told: LineTimes = { line: [0], seconds: [0] };
  let seconds = 0;
  const every = Math.max(1, Math.ceil(moves.count / POINTS));
  for (let i = 0; i < moves.count; i++) {
    seconds += motion.time[i]!;
    if (i % every !== 0) continue;
    told.line.push(moves.line[i]!);
    told.seconds.push(seconds);
  }
  told.line.push(lines);
  told.seconds.push(seconds);
  return told;
}

/** Seconds of moving until a line is reached. */
export function secondsAt({ line, seconds }: LineTimes, at: number): number {
  const after = line.findIndex((one) => one >= at);
  if (after <= 0) return after === 0 ? seconds[0]! : seconds.at(-1)!;
  const [from, to] = [line[after - 1]!, line[after]!];
  const share = to > from ? (at - from) / (to - from) : 1;
  return seconds[after - 1]! + share * (seconds[after]! - seconds[after - 1]!);
}
