/** A form as the depositor sees it: regions by height. */

import type { Region } from '../shape/region';

export type Layer = {
  index: number;
  /** Top of the layer over the bed, mm. */
  z: number;
  height: number;
  /** Rung that begins or goes on here; null in base and brim. */
  rung: number | null;
  /** Outer rims of all islands. */
  outline: Region;
  /** Beads along the rim. */
  walls: number;
  /** Where the inside is filled; outside it islands stay hollow. */
  solid: Region;
};
