/**
 * A proof: which of two sets of values looks better, criterion by criterion. Each criterion is either the same for both,
 * or differs by some scores; what the scores say of that is weighed by Bayes' rule, so that one lucky score proves
 * nothing. All criteria together may tell what none of them tells by itself.
 */

import type { Criterion } from '../criteria';
import { settingInfo, type Setting } from '../bench/settings';
import { orderOf, ownOf, setOf, SIDES, SWAPS, type Side } from '../ladders/proof/sets';
import { mean, short, tidy } from '../numbers';
import { fail, ok, problem, type Result } from '../result';
import { listed } from '../text';
import type { Finding, Proposal } from './finding';
import { defaultWeights, type Case } from './gather';
import { SCORE_NOISE } from './pool';

export type Told = 'better' | 'same' | 'worse';
/** What is said of one criterion; scores are means of all readings, 0..4. */
export type Compared = {
  name: Criterion;
  before: number;
  after: number;
  told: Told | 'unsure';
  /** Chance that it is so, 0..1. */
  sure: number;
};
export type Proof = {
  /** Of the set after against the one before, over all criteria. */
  told: Told | 'mixed';
  sure: number;
  criteria: Compared[];
  /** Which set A and B were. */
  order: [Side, Side];
  /** What was changed by hand between the two; null for nothing. */
  swap: string | null;
};

/** Share of criteria that do not differ at all, and how far those do that differ, in scores. */
const ALIKE = 0.7;
const [HARDLY, CLEARLY] = [0.2, 2];
/** Criteria that are scored on both before anything is told. */
export const FEWEST = 5;
/** Chance from which a criterion is told. */
const SURE = 0.85;
/** Standard deviations from which all criteria together are told, and how far they lie where there is a difference. */
const [TOGETHER, FAR] = [1.85, 4];

export function findProof(given: Case): Result<Finding> {
  const { kind, plan, readings } = given;
  const { weights = defaultWeights(kind) } = given;
  const spec = plan.spec as Record<string, number>;
  const order = orderOf(spec);
  const [before, after] = SIDES.map((side) => order.indexOf(side)) as [number, number];
  const seen = kind.criteria.flatMap(({ name }) => {
    const weight = weights[name] ?? 0;
    const pairs = readings.flatMap((scores) => {
      const [was, is] = [scores[name]?.[before], scores[name]?.[after]];
      return typeof was === 'number' && typeof is === 'number' ? [{ was, is }] : [];
    });
    return weight > 0 && pairs.length > 0 ? [{ name, weight, pairs }] : [];
  });
  const counting = kind.criteria.filter(({ name }) => (weights[name] ?? 0) > 0).length;
  const fewest = Math.min(FEWEST, counting);
  // Told any sooner, the rest would be scored by somebody who knows.
  if (seen.length < Math.max(1, fewest))
    return fail(
      problem(
        'scores',
        `${seen.length} of ${counting} criteria are scored on both parts; which is which is told after ${fewest}.`,
        'Score A and B by more criteria.',
      ),
    );
  const criteria = seen.map(({ name, pairs }): Compared => {
    const [was, is] = [mean(pairs.map((one) => one.was)), mean(pairs.map((one) => one.is))];
    return {
      name,
      before: tidy(Number(was.toFixed(2))),
      after: tidy(Number(is.toFixed(2))),
      ...compared(is - was, pairs.length),
    };
  });
  const total = seen.reduce((sum, { weight }) => sum + weight, 0);
  const pooled = seen.reduce(
    (sum, { weight }, i) => sum + (weight / total) * (criteria[i]!.after - criteria[i]!.before),
    0,
  );
  const noise = Math.sqrt(
    seen.reduce((sum, { weight, pairs }) => sum + (weight / total) ** 2 * noiseOf(pairs.length), 0),
  );
  const proof: Proof = {
    ...overall(criteria, pooled / noise),
    criteria,
    order,
    swap: spec.swap ? SWAPS[spec.swap]! : null,
  };
  const passed = proof.told === 'better';
  const own = ownOf(spec, 'after');
  const values = (Object.keys(own) as Setting[]).map((setting): Proposal => ({
    setting,
    value: passed ? own[setting]! : null,
    range: null,
  }));
  const [first = null, ...others] = values;
  return ok({
    verdict: passed ? 'value' : 'no-effect',
    values: [first ?? { setting: kind.finds[0], value: null, range: null }, ...others],
    done: true,
    reason: reasonOf(proof, kind.otherCause),
    evidence: tidy(Math.abs(pooled / noise)),
    next: null,
    curve: [],
    observations: [],
    notes: notesOf(given, proof),
    proof,
  });
}

/** Variance of the mean difference of so many pairs of scores. */
const noiseOf = (pairs: number): number => (2 * SCORE_NOISE ** 2) / pairs;

const bell = (x: number, variance: number): number =>
  Math.exp(-(x * x) / (2 * variance)) / Math.sqrt(variance);

/** What a mean difference of so many pairs of scores says. */
function compared(difference: number, pairs: number): Pick<Compared, 'told' | 'sure'> {
  const noise = noiseOf(pairs);
  const same = ALIKE * bell(difference, noise + HARDLY ** 2);
  const other = (1 - ALIKE) * bell(difference, noise + CLEARLY ** 2);
  const differs = other / (same + other);
  const told = difference > 0 ? 'better' : 'worse';
  if (differs >= SURE) return { told, sure: rounded(differs) };
  return differs <= 1 - ALIKE + 0.1
    ? { told: 'same', sure: rounded(1 - differs) }
    : { told: 'unsure', sure: rounded(differs) };
}

function overall(criteria: readonly Compared[], far: number): Pick<Proof, 'told' | 'sure'> {
  const of = (told: Compared['told']) => criteria.filter((one) => one.told === told);
  const [better, worse] = [of('better'), of('worse')];
  const sureOf = (all: readonly Compared[]) =>
    Math.max(chance(far), ...all.map(({ sure }) => sure));
  if (better.length > 0 && worse.length > 0)
    return { told: 'mixed', sure: rounded(Math.min(sureOf(better), sureOf(worse))) };
  if (worse.length > 0 || far < -TOGETHER) return { told: 'worse', sure: rounded(sureOf(worse)) };
  if (better.length > 0 || far > TOGETHER) return { told: 'better', sure: rounded(sureOf(better)) };
  return { told: 'same', sure: rounded(1 - chance(far)) };
}

/** Chance that all criteria together differ, so many standard deviations from nothing. */
function chance(far: number): number {
  const same = ALIKE * bell(far, 1);
  const other = (1 - ALIKE) * bell(far, 1 + FAR ** 2);
  return other / (same + other);
}
const rounded = (share: number): number => tidy(Number(share.toFixed(2)));

const named = (criteria: readonly Compared[], told: Compared['told']): string =>
  listed(criteria.filter((one) => one.told === told).map(({ name }) => name));

function reasonOf({ told, criteria, swap }: Proof, otherCause: string): string {
  const [better, worse] = [named(criteria, 'better'), named(criteria, 'worse')];
  const said = [
    better && `Better after: ${better}.`,
    worse && `Worse after: ${worse}.`,
    !better && !worse && told !== 'same' && 'No criterion decides by itself; all together do.',
    told === 'same' && `Nothing differs that an eye is sure of. ${otherCause}`,
    swap && `Between the two, ${swap} was changed.`,
  ];
  return said.filter(Boolean).join(' ');
}

function notesOf({ kind, plan, readings }: Case, { criteria }: Proof): string[] {
  const spec = plan.spec as Record<string, number>;
  const left = kind.criteria.filter(({ name }) => !criteria.some((one) => one.name === name));
  const unsure = named(criteria, 'unsure');
  const [was, is] = [ownOf(spec, 'before'), setOf(spec, 'after')];
  const changed = (Object.keys(was) as Setting[]).map((setting) => {
    const { title, unit } = settingInfo(setting);
    return `${title} ${short(was[setting]!)} to ${short(is[setting]!)} ${unit}`.trim();
  });
  return [
    changed.length > 0 ? `What differs: ${changed.join(', ')}.` : 'Both had the same values.',
    ...(unsure ? [`Not sure yet: ${unsure}. Another pair of eyes, or another look, tells.`] : []),
    ...(left.length > 0 && readings.length > 0
      ? [`Not scored on both: ${listed(left.map(({ name }) => name))}.`]
      : []),
  ];
}
