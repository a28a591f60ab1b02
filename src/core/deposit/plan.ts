/** A plan: what to lay and where, rung by rung, before it is written in any dialect. */

import type { Box } from '../bench/bed';
import type { Values } from '../settings';
import type { Step } from './step';

/** One step of a ladder: a value at a place. */
export type Rung = {
  index: number;
  set: Values;
  /** Height band, mm over the bed. */
  z: { from: number; to: number };
  /** Layer indices, first and last. */
  layers: { first: number; last: number };
  /** Places on the bed when it is not a whole height band; the first is where it is looked at. */
  boxes?: Box[];
  /** Part of it on the bed that alone is looked at. */
  looked?: Box;
  /** Change of the value per mm of height about the middle of the band. */
  slope?: number;
};

/** What to lay and where, with a rung's value at every rung; no command words yet. */
export type Plan = {
  view: 'front' | 'top';
  /** What is looked at from above, mm on the bed; only for `top`. */
  frame?: Box;
  rungs: Rung[];
  steps: Step[];
  /** Everything that is laid, on the bed, mm. */
  box: Box;
  /** Height of the print, and its width seen from the front, mm. */
  height: number;
  width: number;
  layerHeight: number;
  /** Nozzle temperature before the first rung. */
  start: { nozzle: number };
  /** Test conditions: set with the first rung, put back at the end. */
  held: Values;
};
