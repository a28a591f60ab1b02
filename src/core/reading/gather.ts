/** What both rules begin with: all that was scored of a setting, pooled, held against what the bench allows. */

import type { Bench } from '../bench/bench';
import type { Ends, LadderKind, Measured } from '../ladders/types';
import { FEWEST_RUNGS } from '../plan/limits';
import { valuesOn } from '../plan/axes';
import type { Axis, Plan } from '../plan/plan';
import { fail, ok, problem, type Result } from '../result';
import { settingInfo, type Setting, type SettingInfo } from '../bench/settings';
import type { Finding } from './finding';
import {
  looksOf,
  pool,
  weighed,
  type ByCriterion,
  type Look,
  type Opinion,
  type Told,
} from './pool';
import type { Scores, Weights } from './types';

/** Weights that a kind starts with. */
export const defaultWeights = (kind: Pick<LadderKind, 'criteria'>): Weights =>
  Object.fromEntries(kind.criteria.map(({ name, weight }) => [name, weight]));

/** Another ladder of the same bench and form, whose readings count too. */
export type Earlier = {
  plan: Plan;
  readings: readonly Scores[];
  /** Readings of the loupe. */
  loupe?: readonly Told[];
  measured?: readonly Measured[];
};

/** A ladder with everything that was scored of it. */
export type Case = {
  kind: LadderKind;
  plan: Plan;
  bench: Bench;
  readings: readonly Scores[];
  /** Readings of the loupe. */
  loupe?: readonly Told[];
  /** Numbers that were measured, a record for each reading. */
  measured?: readonly Measured[];
  weights?: Weights;
  /** Of everything that is drawn by chance; the same input gives the same finding. */
  seed?: number;
  earlier?: readonly Earlier[];
  /** The axis whose setting is sought; the first when missing. Scores along another are pooled. */
  axis?: Axis;
};

export type Gathered = {
  setting: Setting;
  info: SettingInfo;
  /** Values of the ladder's own rungs. */
  values: number[];
  /** Step between two values of the axis. */
  step: number;
  bounds: Ends;
  /** Own scores and those of earlier ladders, criterion by criterion. */
  opinions: Opinion[];
  readings: readonly ByCriterion[];
  observations: Finding['observations'];
  /** Whether the ladder begins with its highest value. */
  falls: boolean;
  seed: number;
};

/**
 * @param counted readings that must have scored three values at least: the ladder's own, or those of earlier ones too
 * @param what    is worked out of them, in one word
 * @returns problems when too little was scored
 */
export function gather(given: Case, counted: 'own' | 'all', what: string): Result<Gathered> {
  const { kind, plan, bench, readings, loupe = [], earlier = [] } = given;
  const { weights = defaultWeights(kind), axis = plan.axes[0], seed = 1 } = given;
  const setting = axis?.setting;
  if (!axis || !setting)
    return fail(
      problem(
        'scores',
        'No number climbs in steps on this print.',
        'Measure it instead, or print a ladder.',
      ),
    );
  const own = looksAt({ plan, readings, loupe }, setting);
  const looks = [...own, ...earlier.flatMap((one) => looksAt(one, setting))];
  const opinions = pool(looks, weights);
  const counting = counted === 'own' ? pool(own, weights) : opinions;
  const scored = new Set(counting.flatMap((one) => one.values)).size;
  if (scored < FEWEST_RUNGS) return tooFew(counted === 'own' ? own : looks, scored, what);
  const values = valuesOn(axis, plan);
  const steps = axis.steps.length - 1;
  const observations = looks.flatMap((look) =>
    weighed(look, weights).map(({ value, y }) => ({
      value,
      score: y,
      ...(look.noise ? { loupe: true as const } : {}),
    })),
  );
  return ok({
    setting,
    info: settingInfo(setting),
    values,
    step: (Math.max(...values) - Math.min(...values)) / steps,
    bounds: kind.bounds(bench)[setting] ?? { min: -Infinity, max: Infinity },
    opinions,
    readings: [...readings, ...loupe.map(({ scores }) => scores)],
    observations,
    falls: values[0]! > values.at(-1)!,
    seed,
  });
}

/** Readings of one ladder with the values of a setting that its rungs had; none when it did not climb there. */
function looksAt({ plan, ...said }: Earlier, setting: Setting): Look[] {
  const axis = plan.axes.find((one) => one.setting === setting);
  if (!axis) return [];
  return looksOf(valuesOn(axis, plan), said);
}

/** Too little was scored to say anything, or what was scored does not count. */
function tooFew(looks: readonly Look[], counted: number, what: string): Result<never> {
  const rungs = looks[0]?.values.length ?? 0;
  const scored = new Set(
    looks.flatMap(({ values, scores }) =>
      values.filter((_, rung) =>
        Object.values(scores).some((list) => typeof list[rung] === 'number'),
      ),
    ),
  ).size;
  if (scored >= FEWEST_RUNGS && scored > counted)
    return fail(
      problem(
        'weights',
        `${scored} of ${rungs} rungs have a score, but what was scored has a weight of 0.`,
        'Turn a weight up: you decide what counts.',
      ),
    );
  return fail(
    problem(
      'scores',
      `${scored} of ${rungs} rungs have a score; a ${what} needs at least ${FEWEST_RUNGS}.`,
      'Score more rungs.',
    ),
  );
}
