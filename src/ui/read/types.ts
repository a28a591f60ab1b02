/** What the parts of the reading screen share. */

import type { ShownStrip } from '../common/LookStrip';
import type { Criterion } from '@/core/criteria';
import type { Cells } from '@/core/view/cells';
import type { Named } from '@/core/view/shared-axis';
import type { Score } from '@/core/reading/types';
import type { Taps } from './useReading';

export type ReadCriterion = {
  name: Criterion;
  where: string;
  /** Where on the print it is looked at, as a share of its width. */
  spot?: number;
};

/** The one cell that taps, keys, focus and screen readers speak of; `over` once the last one was answered. */
export type Place = { rung: number; criterion: number; mode: Mode; over: boolean };

/** Rung by rung, one criterion over all, or of a grid the best row of each column. */
export type Mode = 'rung' | 'criterion' | 'best';

/** The print that is read, where the reader stands, and what a tap does. */
export type Focus = {
  place: Place;
  rungs: readonly Named[];
  /** Of a grid: where its cells lie on the picture. */
  cells: Cells | null;
  criteria: readonly ReadCriterion[];
  picture: string;
  /** Whether the picture shows more than the plan does. */
  simulated: boolean;
  height: number;
  width: number;
  stretch: number;
  /** Straightened pictures of the print. */
  looks: readonly ShownStrip[];
  state: Taps;
  /** Grows with every step by keys. */
  follow: number;
  score: (rung: number, criterion: number, value: Score | null) => void;
  go: (patch: { rung?: number; criterion?: number }) => void;
  /** Of a grid: the best row of each column as it was chosen, and what chooses one. */
  best: readonly number[];
  choose: (rung: number) => void;
};
