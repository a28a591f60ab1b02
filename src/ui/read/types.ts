/** What the parts of the reading screen share. */

import type { Criterion } from '@/core/criteria';
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
  picture: string;
  /** Whether the picture shows more than the plan does. */
  simulated: boolean;
  height: number;
  width: number;
  state: Taps;
  score: (rung: number, criterion: number, value: Score | null) => void;
  go: (patch: { rung?: number; criterion?: number }) => void;
};
