/** Feeding filament by hand. */

import { pushes } from '../core/gcode/pushes';
import { short } from '../core/numbers';

/** Lines that feed mm at mm/s. Relative for this length alone: what comes next says its own way. */
export const feedLines = (mm: number, speed: number): string[] => [
  'M83',
  ...pushes(mm).map((part) => `G1 E${short(part)} F${short(60 * speed, 1)}`),
  'M400',
  ...FED_AFTER,
];

/** What stands again after it. */
export const FED_AFTER = ['M82'];
