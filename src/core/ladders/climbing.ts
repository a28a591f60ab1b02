/** What every kind that climbs a range needs of its axis. */

import { axisOf } from '../plan/axes';
import { marksOf } from '../plan/marks';
import type { Axis } from '../plan/plan';
import { settingInfo, type Setting } from '../bench/settings';
import { climb, type Range } from './climb';
import type { Ranges } from './types';

/** Values of the rungs of a range, first to last. */
const valuesIn = (setting: Setting, range: Range): number[] =>
  climb(range, settingInfo(setting).resolution);

/** What they are called in plastic. */
export const labelsOf = (setting: Setting, range: Range): string[] =>
  marksOf(setting, valuesIn(setting, range)).texts;

/** The one axis of a tower whose rungs climb a range, bottom first. */
export const upward = (setting: Setting, range: Range): [Axis] => [
  axisOf(setting, valuesIn(setting, range), 'z'),
];

/** The one axis of a flat pattern whose rungs climb a range, the front one first. */
export const rearward = (setting: Setting, range: Range): [Axis] => [
  axisOf(setting, valuesIn(setting, range), 'y'),
];

/** Moves a spec of `from`, `to` and `step` to another range of its setting. */
export const movedTo =
  (setting: Setting) =>
  <Spec extends object>(spec: Spec, ranges: Ranges): Spec => ({
    ...spec,
    // A range around a finding is narrow: even steps look at all of it alike.
    ...('growing' in spec ? { growing: 0 } : {}),
    ...ranges[setting],
  });
