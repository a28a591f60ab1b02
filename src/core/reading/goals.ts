/** Goals: what a print is for decides how much each criterion counts. */

import type { Criterion } from '../criteria';
import type { LadderKind } from '../ladders/types';
import { tidy } from '../numbers';
import { defaultWeights } from './gather';
import type { Weights } from './types';

export const GOALS = {
  balanced: { title: 'Balanced', raised: [] },
  looks: {
    title: 'Looks',
    raised: ['surface', 'gloss', 'stringing', 'seam', 'ringing', 'corners', 'ridges'],
  },
  strength: { title: 'Strength', raised: ['layer adhesion', 'gaps', 'bridging'] },
} as const satisfies Record<string, { title: string; raised: readonly Criterion[] }>;
export type Goal = keyof typeof GOALS;
export const GOAL_NAMES = Object.keys(GOALS) as Goal[];

/** What serves a goal counts in full; what does not still counts by this share of its usual weight. */
const LOWERED = 0.3;

/** Weights of a kind's criteria for a goal, in tenths, as sliders have them. */
export function weightsFor(goal: Goal, kind: Pick<LadderKind, 'criteria'>): Weights {
  const usual = defaultWeights(kind);
  const raised: readonly Criterion[] = GOALS[goal].raised;
  if (raised.length === 0) return usual;
  return Object.fromEntries(
    (Object.entries(usual) as [Criterion, number][]).map(([name, weight]) => [
      name,
      raised.includes(name) ? 1 : tidy(Math.max(0.1, Math.round(weight * LOWERED * 10) / 10)),
    ]),
  );
}

/** Whether goals tell criteria of a kind apart: some serve a goal, and some do not. */
export const hasGoals = ({ criteria }: Pick<LadderKind, 'criteria'>): boolean =>
  (['looks', 'strength'] as const).some((goal) => {
    const serving = criteria.filter(({ name }) =>
      (GOALS[goal].raised as readonly Criterion[]).includes(name),
    );
    return serving.length > 0 && serving.length < criteria.length;
  });
