/** What every kind that climbs a range needs of its rungs. */

import { short } from '../numbers';
import type { Setting, Values } from '../settings';
import { plasticLabel } from '../shape/relief';
import { climb, type Range } from './climb';

/** What the rungs of a range are called in plastic, first to last. */
export const labelsOf = (range: Range): string[] =>
  climb(range).map((value) => plasticLabel(short(value)));

/** Rungs of a range, each with its value of one setting. */
export const rungsOf = (setting: Setting, range: Range): { set: Values }[] =>
  climb(range).map((value) => ({ set: { [setting]: value } }));

/** A spec moved to another range. */
export const movedTo = <Spec extends object>(spec: Spec, range: Range): Spec => ({
  ...spec,
  ...range,
});
