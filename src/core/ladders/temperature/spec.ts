/** What can be chosen about a temperature ladder. */

import { z } from 'zod';

const whole = z.number().int();

export const Spec = z.object({
  /** Nozzle temperature of the lowest rung, °C; machines take whole degrees. */
  from: whole.min(150).max(450),
  /** Nozzle temperature of the highest rung, °C. */
  to: whole.min(150).max(450),
  step: whole.min(1).max(100),
  /** Height of one rung, mm; rounded to whole layers. */
  rungHeight: z.number().min(2).max(30),
  layerHeight: z.number().min(0.05).max(1),
  /** Walls. */
  walls: whole.min(1).max(3),
  /** mm/s */
  speed: z.number().min(10).max(300),
  /** Lean of the overhang from vertical, degrees. */
  overhangDeg: z.number().min(30).max(70),
  /** Free length of the bridge, mm. */
  span: z.number().min(8).max(60),
  /** mm; 0 for none. */
  brim: z.number().min(0).max(20),
  skirtLoops: whole.min(0).max(5),
  /** Middle of the print from the middle of the bed, mm. */
  shiftX: z.number().min(-1000).max(1000),
  shiftY: z.number().min(-1000).max(1000),
});
export type Spec = z.infer<typeof Spec>;
