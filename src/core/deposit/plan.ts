/** A plan: what to lay and where, rung by rung, before it is written in any dialect. */

import type { Box } from '../bench/bed';
import type { Setting } from '../settings';
import type { Step } from './step';

/** One step of a ladder: a value at a place. */
export type Rung = {
  index: number;
  set: Partial<Record<Setting, number>>;
  /** Height band, mm over the bed. */
  z: { from: number; to: number };
  /** Layer indices, first and last. */
  layers: { first: number; last: number };
};

/** What to lay and where, with a rung's value at every rung; no command words yet. */
export type Plan = {
  rungs: Rung[];
  steps: Step[];
  /** Everything that is laid, on the bed, mm. */
  box: Box;
  /** Height of the print, and its width seen from the front, mm. */
  height: number;
  width: number;
  layerHeight: number;
  /** Values in force before the first rung. */
  start: { nozzle: number };
};
