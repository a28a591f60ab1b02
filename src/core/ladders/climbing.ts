/** What every kind that climbs a range needs of its axis. */

import { short } from '../numbers';
import { axisOf } from '../plan/axes';
import type { Axis } from '../plan/plan';
import type { Setting } from '../bench/settings';
import { plasticLabel } from '../shape/relief';
import { climb, type Range } from './climb';
import type { Ranges } from './types';

/** What the rungs of a range are called in plastic, first to last. */
export const labelsOf = (range: Range): string[] =>
  climb(range).map((value) => plasticLabel(short(value)));

/** The one axis of a tower whose rungs climb a range, bottom first. */
export const upward = (setting: Setting, range: Range): [Axis] => [
  axisOf(setting, climb(range), 'z'),
];

/** The one axis of a flat pattern whose rungs climb a range, the front one first. */
export const rearward = (setting: Setting, range: Range): [Axis] => [
  axisOf(setting, climb(range), 'y'),
];

/** Moves a spec of `from`, `to` and `step` to another range of its setting. */
export const movedTo =
  (setting: Setting) =>
  <Spec extends object>(spec: Spec, ranges: Ranges): Spec => ({ ...spec, ...ranges[setting] });
