/** A layout: what to lay and where, rung by rung, before it is written in any dialect. */

import type { Box } from '../bench/bed';
import type { Plan, PlannedRung } from '../plan/plan';
import type { Step } from './step';

/** What a plan says of the print, and the steps that lay it; no command words yet. */
export type Layout = Pick<
  Plan,
  'view' | 'frame' | 'held' | 'fed' | 'axes' | 'layerHeight' | 'height' | 'width'
> & {
  rungs: PlannedRung[];
  steps: Step[];
  /** Everything that is laid, on the bed, mm. */
  box: Box;
  /** Nozzle temperature before the first rung. */
  start: { nozzle: number };
};
