/** The two sets of values of a proof: which settings they speak of, what each has, and which of them is A. */

import type { Bench } from '../../bench/bench';
import { inForce } from '../../bench/in-force';
import { settingInfo, type Setting, type Values } from '../../bench/settings';
import { seeded } from '../../random';
import { capital } from '../../text';
import type { Field } from '../types';

/** What may differ, all that a part of a print shows, and the ends of what may be asked for. */
const ENDS = {
  flow: [0.5, 1.5],
  retraction: [0, 20],
  retractSpeed: [1, 200],
  advance: [0, 2],
  acceleration: [50, 100_000],
  jerk: [0.5, 200],
  deviation: [0.001, 2],
  square: [0.5, 200],
  bridgeFlow: [0.5, 1.5],
  bridgeSpeed: [3, 200],
  bridgeFan: [0, 1],
  nozzle: [150, 450],
} as const satisfies Partial<Record<Setting, readonly [number, number]>>;
type Provable = keyof typeof ENDS;
export const PROVEN = Object.keys(ENDS) as [Provable, ...Provable[]];

/** What stands for a setting that a machine does not have. */
export const ABSENT = -1;

/** What somebody changes by hand between the two. */
export const SWAPS = ['nothing', 'the spool', 'the nozzle', 'something on the machine'];

export const SIDES = ['before', 'after'] as const;
export type Side = (typeof SIDES)[number];
/** The input of a set that has the value of a setting: `afterRetraction`. */
export const keyOf = (side: Side, setting: string): string => side + capital(setting);

/** The inputs of both sets. */
export const SET_FIELDS: Record<string, Field> = Object.fromEntries(
  SIDES.flatMap((side) =>
    PROVEN.map((setting): [string, Field] => {
      const { title, unit, resolution } = settingInfo(setting);
      return [
        keyOf(side, setting),
        {
          label: `${side === 'before' ? 'Before' : 'After'}: ${title}`,
          unit,
          min: ABSENT,
          max: ENDS[setting][1],
          step: resolution,
          folded: true,
        },
      ];
    }),
  ),
);

type Spec = Record<string, number>;

/** Before: what a bench had where nothing was found. After: what was found. */
export function usualSets(bench: Bench): Spec {
  const { tuned: _, ...untuned } = bench;
  const sets = { before: inForce(untuned), after: inForce(bench) };
  return Object.fromEntries(
    SIDES.flatMap((side) =>
      PROVEN.map((setting) => {
        const value = sets[side][setting];
        return [keyOf(side, setting), Number.isFinite(value) ? value : ABSENT];
      }),
    ),
  );
}

/** All that a set says of settings that the machine has. */
export const setOf = (spec: Spec, side: Side): Values =>
  Object.fromEntries(
    PROVEN.flatMap((setting) => {
      const value = spec[keyOf(side, setting)];
      return value === undefined || value === ABSENT ? [] : [[setting, value]];
    }),
  );

/** Settings in which the two differ. */
export function differing(spec: Spec): Setting[] {
  const [before, after] = [setOf(spec, 'before'), setOf(spec, 'after')];
  return PROVEN.filter(
    (setting) => before[setting] !== undefined && before[setting] !== after[setting],
  );
}

/** What a set has of the settings in which the two differ. */
export function ownOf(spec: Spec, side: Side): Values {
  const all = setOf(spec, side);
  return Object.fromEntries(differing(spec).map((setting) => [setting, all[setting]!]));
}

/**
 * Which set A and B are: drawn, so that nobody knows it who looks at them. What is changed by hand is known to whoever
 * changes it, and goes in order.
 */
export function orderOf({ seed, swap }: Spec): [Side, Side] {
  if ((swap ?? 0) > 0) return ['before', 'after'];
  return seeded(Math.imul(seed ?? 1, 0x9e3779b1))() < 0.5
    ? ['before', 'after']
    : ['after', 'before'];
}

/** Whether nobody may know which part has which values before both are scored. */
export const isBlind = ({ kind, spec }: { kind: string; spec: object }): boolean =>
  kind === 'proof' && ((spec as { swap?: number }).swap ?? 0) === 0;

/** Values under what a setting may have: above, the inputs themselves end. */
export const tooLow = (spec: Spec): { key: string; setting: Setting; least: number }[] =>
  SIDES.flatMap((side) =>
    PROVEN.flatMap((setting) => {
      const key = keyOf(side, setting);
      const [least] = ENDS[setting];
      const value = spec[key];
      return value === undefined || value === ABSENT || value >= least
        ? []
        : [{ key, setting, least }];
    }),
  );

/** Whether the two stand over each other: what changes slowly, or by hand, cannot change twice a layer. */
export const standsOver = (spec: Spec): boolean =>
  (spec.swap ?? 0) > 0 || differing(spec).includes('nozzle');

/** Whether a proof can speak of a setting. */
export const isProvable = (setting: Setting): boolean => setting in ENDS;
