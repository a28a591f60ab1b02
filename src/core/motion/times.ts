/** Where the time of a file goes. */

import { z } from 'zod';
import { changeAt, MOVE, type Trace } from '../gcode/trace';
import type { Motion } from './plan-motion';

/** Seconds by cause. Heating and homing are estimates of usual machines, not of this one. */
export const Times = z.object({
  /** Moves that lay plastic. */
  laying: z.number(),
  /** Travel, retraction, restart. */
  travel: z.number(),
  dwell: z.number(),
  heating: z.number(),
  homing: z.number(),
});
export type Times = z.infer<typeof Times>;

/** Printing itself, min: heating and homing take as long whatever is printed. */
export const printingMinutes = ({ laying, travel, dwell }: Times): number =>
  (laying + travel + dwell) / 60;

/** Usual rates, °C/s, from a cold start at 20 °C: a 40 W cartridge, a 200 W plate. */
const NOZZLE_RATE = 2.2;
const BED_RATE = 0.35;
const ROOM = 20;
/** Time to home one axis, s. */
const HOME_AXIS = 6;

export function timesOf(trace: Trace, motion: Motion): Times {
  const times: Times = { laying: 0, travel: 0, dwell: 0, heating: 0, homing: 0 };
  for (let i = 0; i < trace.moves.count; i++) {
    if (trace.moves.kind[i] === MOVE.extrude) times.laying += motion.time[i]!;
    else times.travel += motion.time[i]!;
  }
  const reached = { nozzle: ROOM, bed: ROOM };
  for (let i = 0; i < trace.changes.count; i++) {
    const { name, value } = changeAt(trace, i);
    if (name === 'dwell') times.dwell += value;
    if (name === 'home') times.homing += HOME_AXIS * bits(value);
    if (name === 'wait-nozzle') {
      times.heating += Math.max(0, value - reached.nozzle) / NOZZLE_RATE;
      reached.nozzle = value;
    }
    if (name === 'wait-bed') {
      times.heating += Math.max(0, value - reached.bed) / BED_RATE;
      reached.bed = value;
    }
  }
  return times;
}

const bits = (mask: number): number => [1, 2, 4].filter((bit) => (mask & bit) !== 0).length;
