/** What of a print grows one after the other: its rungs, or of a grid and of a map its rows. */

import { rowsAsRungs } from './cells';
import type { Named, OnSharedAxis } from './shared-axis';
import { stripsAsRungs } from './strips';

export const growing = ({ cells, strips, rungs }: OnSharedAxis): Named[] =>
  cells ? rowsAsRungs(cells, rungs) : strips ? stripsAsRungs(strips, rungs) : rungs;
