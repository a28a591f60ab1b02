/** A form as the depositor sees it: regions by height. */

import type { Region } from '../shape/region';

/** What stands in one layer for one rung, or for none. */
export type Part = {
  /** Rung that begins or goes on here; null in base and brim. */
  rung: number | null;
  /** Outer rims of all islands. */
  outline: Region;
  /** Beads along the rim. */
  walls: number;
  /** Where the inside is filled; outside it islands stay hollow. */
  solid: Region;
};

export type Layer = {
  index: number;
  /** Top of the layer over the bed, mm. */
  z: number;
  height: number;
  /** In the order in which they are laid; they do not overlap. */
  parts: Part[];
};

/** Rims of everything that stands in a layer. */
export const outlineOf = ({ parts }: Pick<Layer, 'parts'>): Region =>
  parts.length === 1 ? parts[0]!.outline : parts.flatMap(({ outline }) => outline);
