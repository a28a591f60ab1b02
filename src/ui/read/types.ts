/** What the parts of the reading screen share. */

import type { Criterion } from '@/core/ladders/criteria';
import type { PlanRung } from '@/core/ladders/plan-file';
import type { Score } from '@/core/reading/types';
import type { Setting } from '@/core/settings';
import type { Taps } from './useReading';

export type ReadCriterion = { name: Criterion; where: string };

/** The print that is read, where the reader stands, and what a tap does. */
export type Focus = {
  place: { rung: number; criterion: number };
  rungs: readonly PlanRung[];
  criteria: readonly ReadCriterion[];
  unit: string;
  setting: Setting;
  fileId: number;
  height: number;
  width: number;
  state: Taps;
  score: (rung: number, criterion: number, value: Score | null) => void;
  go: (patch: { rung?: number; criterion?: number }) => void;
};
