/** What every measure is given: the straightened picture, what the plan says of it, and how fine the photo was. */

import type { Box } from '../bench/bed';
import type { Trace } from '../gcode/trace';
import type { Plan } from '../plan/plan';
import type { Level } from './expected';
import type { Turns } from './line-up';
import type { Flat } from './straighten';

export type Side = 'front' | 'back' | 'top';

/** A place that is measured: a band of heights seen from a side, or a box seen from above, mm of the print. */
export type Spot = { rung: number; box: Box };

export type Sight = {
  plan: Plan;
  side: Side;
  flat: Flat;
  /** Lightness of the straightened picture, 0..1. */
  grey: Float32Array;
  /** 0 on the ground, 1 on plastic; null where the two cannot be told apart. */
  plastic: Float32Array | null;
  /** The print's box, mm. */
  box: Box;
  /** Fewest pixels of the photo for a millimetre upward, and across. */
  up: number;
  across: number;
  /** Sides of all layers by the plan; null where they are not seen. Made when it is first asked for. */
  levels: () => Level[] | null;
  /** How pairs of lines run in the picture, all together. */
  turns: () => Turns;
  /** The plan's own moves; null where they are not known. */
  trace: () => Trace | null;
  /** How much of plastic closed patches show, all together. */
  closed: () => number;
  /** How far a length may be off by where the corners were put, as a share (one standard deviation). */
  scaleError: number;
};

/** Half the width of the range that holds the truth in 8 of 10, of a normal scatter of 1. */
export const EIGHT_OF_TEN = 1.2816;

/** A number of one rung. `spread` is half the range that holds the truth in 8 of 10. */
export type Taken = {
  value: number;
  spread: number;
  /** Whether the picture tells it; when not, value and spread say nothing. */
  told: boolean;
  /** Why not, and what to do, in one sentence. */
  why?: string;
  /** Where it was taken, mm of the print. */
  at: Box;
  /** Other numbers that were found on the way, by name, in their own units. */
  also?: Record<string, number>;
};

export const cannotTell = (at: Box, why: string): Taken => ({
  value: NaN,
  spread: NaN,
  told: false,
  why,
  at,
});
