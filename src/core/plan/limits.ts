/** How large a plan may be. */

/** Most steps of one axis: more would be finer than an eye compares, or taller than machines print. */
export const MOST_STEPS = 30;

/** Most axes: a print has a face to look at, and a face has two. */
export const MOST_AXES = 2;

/** Most rungs in one plan: a grid of fifteen by fifteen, more than anybody scores in one go. */
export const MOST_RUNGS = 225;

/** Fewest rungs that a finding can be drawn through. */
export const FEWEST_RUNGS = 3;

/** Printing longer than this, min, a ladder is long: there is something to save. */
export const LONG_MINUTES = 30;
