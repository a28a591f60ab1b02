/** The shape of a ladder kind: everything that is particular to it, in one place, and nothing else. */

import type { z } from 'zod';
import type { Box } from '../bench/bed';
import type { Bench } from '../bench/bench';
import type { LayingMemory } from '../deposit/deposit';
import type { Layer } from '../deposit/layer';
import type { Layout } from '../deposit/layout';
import type { Floor } from '../plan/nudged';
import type { Axis, Plan, PlannedRung } from '../plan/plan';
import type { Problem, Result } from '../result';
import type { Criterion } from '../criteria';
import type { Setting } from '../bench/settings';
import type { Range } from './climb';

/** `stop`: no file is made. `warning`: it prints, but look. `note`: worth knowing. */
export type Grade = 'stop' | 'warning' | 'note';
export type Warning = Problem & { grade: Grade; code: string; offers?: Offer[] };

/** Values to be changed in a spec, offered as a mend that takes one press. */
export type SpecPatch = Record<string, number>;
export type Offer = { label: string; patch: SpecPatch };

/** One input of a spec as the designer shows it. */
export type Field = {
  label: string;
  unit: string;
  min: number;
  max: number;
  /** Step of the input's arrows. */
  step: number;
  /** Shown in the sentence, or folded away. */
  folded?: true;
  /** Whole numbers only. */
  whole?: true;
  /** Words to choose from; the input's value is the number of one. */
  choices?: string[];
};

/** What is sought of which setting, at each step of which other one. */
export type LimitsRule = {
  of: Setting;
  over: Setting;
  end: 'least' | 'most';
  /** Which way the limit moves with more of the other; missing where nobody knows. */
  trend?: 'falls' | 'rises';
  /** The step whose limit is the one value: that which is safe for all, or the last. */
  takes: 'safest' | 'last';
};

/**
 * How a print becomes a value (domain.md §8): the best place of the scores, the least or most of a setting that
 * is still clean, or numbers that were measured.
 */
export type Rule =
  | { kind: 'best'; saferSide: 'lower' | 'higher' }
  /** `sure`: chance of being clean that the value must have, where it is not the usual one. */
  | { kind: 'clean'; end: 'least' | 'most'; sure?: number }
  /** The joint best of two settings; of some, the least that is as good to the eye as the best. */
  | { kind: 'plane'; least: readonly Setting[] }
  /** The most or the least of one setting that is clean, at each step of another. */
  | ({ kind: 'limits' } & LimitsRule)
  /** A value for each cell of speeds and accelerations, and the one that does least harm over all of them. */
  | { kind: 'map' }
  /** Which of two sets of values looks better, by criterion; nobody knows which is which until both are scored. */
  | { kind: 'proof' }
  | { kind: 'measured' };

/** A number that is measured on a print, several times over where it scatters. */
export type Measure = {
  key: string;
  label: string;
  unit: string;
  min: number;
  max: number;
  /** How many times it is measured, at least and at most. */
  fewest: number;
  most: number;
  /** What to do, in one sentence. */
  how: string;
  /** Values to choose among instead of typing: rungs of the print by their value. */
  choices?: (plan: Plan) => number[];
  /** Tapped on the print instead of typed: numbers of rungs, from 0. */
  tapped?: true;
};

/** The measure that is tapped, as rungs: of a grid the best row of each column, of a map the best figure of each cell. */
export const BEST_ROWS = 'best';
export type Measured = Record<string, number[]>;

/** A value of a setting, with the range in which it lies in 8 of 10 such cases. */
export type Found = { setting: Setting; value: number; range: [number, number] };

/** Values worked out of measured numbers. */
export type Worked = {
  values: Found[];
  reason: string;
  /** Other things that the numbers tell, in words. */
  also?: string[];
};

/**
 * A criterion of a kind: where it is looked at, in words and as a share of the print's width from its left, and of rungs
 * with several places, in which of them.
 */
export type CriterionOf = {
  name: Criterion;
  weight: number;
  where: string;
  spot?: number;
  box?: number;
};

/** A form by its layers, before it is placed and laid. */
export type Draft = {
  axes: Axis[];
  layers: Layer[];
  rungs: PlannedRung[];
  height: number;
  /** What is seen of it from above; missing where it is looked at from the front. */
  above?: Box;
};

export type Ends = { min: number; max: number };
/** A range to climb for each setting that is to be climbed. */
export type Ranges = Partial<Record<Setting, Range>>;

/** A table as it is shown: its title, heads of its columns, and rows whose first entry names them. */
export type Told = { title: string; heads: string[]; rows: string[][] };

/** How a found value gets to the machine: command lines, and where else it belongs. */
export type Carry = { lines: string[]; say: string };

export type LadderKind<Spec extends object = object> = {
  id: string;
  title: string;
  /** Of a kind that is only read any more: the id of the one that is printed now. */
  now?: string;
  /** Made of a file that somebody sliced: there its sections are set, and no form is laid. */
  ofFile?: true;
  /** Prints nothing and feeds: the inputs that say how far up the filament is marked and how much is fed, mm. */
  feeds?: { mark: string; length: string };
  /** Settings that its print tells; the first is what the route asks for. */
  finds: readonly [Setting, ...Setting[]];
  spec: z.ZodType<Spec>;
  /** The main inputs in one sentence, `{key}` where an input stands. */
  sentence: string;
  fields: Record<string, Field>;
  /** Inputs that it had in earlier versions; what a stored ladder says of them is left out. */
  retired?: readonly string[];
  /** What its value decides, in one sentence, where that is more than its setting (`termOf`). */
  decides?: string;
  /** Why the defaults are what they are, for this bench. */
  reason(bench: Bench): string;
  /** Why this bench cannot print it, and how to mend that; null when it can. */
  unfit?(bench: Bench): Problem | null;
  /** Settings that it is tuned with: when they move, its value goes stale (domain.md §9). */
  standsOn: readonly Setting[];
  /** Printed only when its setting is suspected; the route does not ask for it. */
  onDemand?: true;
  defaults(bench: Bench): Spec;
  /** What can be said before anything is planned. */
  check(spec: Spec, bench: Bench): Warning[];
  /** What climbs on its print: nothing, one setting, or two. */
  axes(spec: Spec, bench: Bench): Axis[];
  /** @throws never for a spec without `stop` warnings */
  lay(spec: Spec, bench: Bench, memory?: LayingMemory): Layout;
  /** The form without its moves, where laying it takes longer than a drawing may wait. */
  draft?(spec: Spec, bench: Bench): Draft;
  /** Hard ends of what this bench allows of each setting; the next ladder stays within. */
  bounds(bench: Bench): Partial<Record<Setting, Ends>>;
  /** The spec moved to other ranges, for the next ladder. */
  moved(spec: Spec, ranges: Ranges): Spec;
  /** What is looked at, with the weight that each has until the user turns it (0..1). */
  criteria: CriterionOf[];
  rule: Rule;
  /** What is measured instead of scored, or besides. */
  measures?: Measure[];
  /** Works out what measured numbers say; problems when they contradict each other. */
  work?(measured: Measured, plan: Plan): Result<Worked>;
  carry(setting: Setting, value: number, bench: Bench): Carry;
  /** What a found value means for prints, as a table to look up. */
  table?(value: number, bench: Bench): Told;
  /** How low the nozzle may be nudged while it prints, in the order of its lines; missing where nobody nudges. */
  floors?(plan: Plan): Floor[];
  /** When every rung looks the same: what usually is the cause instead. */
  otherCause: string;
};
