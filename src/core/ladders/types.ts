/** The shape of a ladder kind: everything that is particular to it, in one place, and nothing else. */

import type { z } from 'zod';
import type { Bench } from '../bench/bench';
import type { LayingMemory } from '../deposit/deposit';
import type { Plan } from '../deposit/plan';
import type { Problem } from '../result';
import type { Criterion } from '../criteria';
import type { Setting } from '../settings';

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
};

/** How scores become a value (domain.md §8). */
export type Rule = { kind: 'best'; saferSide: 'lower' | 'higher' };

export type LadderKind<Spec extends object = object> = {
  id: string;
  title: string;
  /** What climbs; the first is what the finding speaks of. */
  setting: Setting;
  spec: z.ZodType<Spec>;
  /** The main inputs in one sentence, `{key}` where an input stands. */
  sentence: string;
  fields: Record<string, Field>;
  /** Why the defaults are what they are, for this bench. */
  reason(bench: Bench): string;
  defaults(bench: Bench): Spec;
  /** What can be said before anything is planned. */
  check(spec: Spec, bench: Bench): Warning[];
  /** @throws never for a spec without `stop` warnings */
  plan(spec: Spec, bench: Bench, memory?: LayingMemory): Plan;
  /** Hard ends of what this bench allows; the next ladder stays within. */
  bounds(bench: Bench): { min: number; max: number };
  /** The spec moved to another range, for the next ladder. */
  moved(spec: Spec, range: { from: number; to: number; step: number }): Spec;
  /** What is looked at, with the weight that each has until the user turns it (0..1). */
  criteria: { name: Criterion; weight: number; where: string }[];
  rule: Rule;
  /** How a found value gets to the machine: command lines, and where else it belongs. */
  carry(value: number, bench: Bench): { lines: string[]; say: string };
  /** When every rung looks the same: what usually is the cause instead. */
  otherCause: string;
};
