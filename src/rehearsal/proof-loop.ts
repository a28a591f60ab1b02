/** The whole loop of a proof: two parts on an understudy, scored by its eye, and what is told of them. */

import type { Bench } from '../core/bench/bench';
import { inForce } from '../core/bench/in-force';
import { settingInfo, type Setting, type Values } from '../core/bench/settings';
import { LayingMemory } from '../core/deposit/deposit';
import { makeOf } from '../core/ladders/make';
import { keyOf, PROVEN, setOf } from '../core/ladders/proof/sets';
import type { LadderKind } from '../core/ladders/types';
import { snap } from '../core/numbers';
import { findValue } from '../core/reading/find-value';
import type { Proof } from '../core/reading/find-proof';
import { seeded } from '../core/random';
import { fail, ok, problem, type Result } from '../core/result';
import { scored } from '../understudy/eye';
import { printTrace } from '../understudy/print';
import { drawTruths } from '../understudy/truths';
import { withFound } from './found-before';
import { placesOf } from './places';

/** What the two sets are to each other: the same, the second worsened, or found after nothing was. */
export const CASES = ['equal', 'worsened', 'found'] as const;
export type ProofCase = (typeof CASES)[number];
export type ProofTrial = {
  seed: number;
  /** What is told of the second set, and the settings in which the two differ, by case. */
  told: Record<ProofCase, Proof['told']>;
  differ: Record<ProofCase, Setting[]>;
  minutes: number;
};

/** Ways in which a machine that was tuned gets worse, as people and spools do it. */
const WORSE: Partial<Record<Setting, (value: number) => number>> = {
  retraction: (value) => 0.35 * value,
  flow: (value) => value - 0.12,
  advance: () => 0,
  nozzle: (value) => value + 22,
  bridgeFlow: (value) => value + 0.3,
};
/** So many of them at once. */
const AT_ONCE = 2;

export class ProofLoop {
  private readonly memory = new LayingMemory();

  private constructor(
    private readonly kind: LadderKind,
    private readonly bench: Bench,
  ) {}

  /** @returns problems for a bench that cannot print it */
  static on(kind: LadderKind, bench: Bench): Result<ProofLoop> {
    const made = makeOf(kind, {}, bench);
    return made.ok ? ok(new ProofLoop(kind, bench)) : made;
  }

  trial(seed: number): Result<ProofTrial> {
    const truths = drawTruths(this.bench, seed);
    const bench = withFound(this.bench, PROVEN, truths);
    const now = setOf(this.kind.defaults(bench) as Record<string, number>, 'after');
    const { tuned: _, ...untuned } = bench;
    const sets: Record<ProofCase, [Values, Values]> = {
      equal: [now, now],
      worsened: [now, worsened(now, seed)],
      found: [withSame(inForce(untuned), now), now],
    };
    const told = {} as ProofTrial['told'];
    const differ = {} as ProofTrial['differ'];
    let minutes = 0;
    for (const [i, of] of CASES.entries()) {
      const [before, after] = sets[of];
      const spec = { ...specOf('before', before), ...specOf('after', after), seed: seed + i };
      const made = makeOf(this.kind, spec, bench, this.memory);
      if (!made.ok) return made;
      const { trace, plan } = made.value;
      const printed = printTrace(trace, bench, truths);
      const names = this.kind.criteria.map(({ name }) => name);
      const { scores } = scored(printed, placesOf(plan), names, Math.imul(seed, 31) + i);
      const found = findValue(this.kind, plan, bench, { readings: [scores] });
      if (!found.ok) return found;
      const { proof } = found.value;
      if (!proof) return fail(problem('kind', 'Nothing was compared.', 'Rehearse a proof.'));
      told[of] = proof.told;
      differ[of] = (Object.keys(after) as Setting[]).filter(
        (setting) => after[setting] !== before[setting],
      );
      minutes += printed.seconds / 60 / CASES.length;
    }
    return ok({ seed, told, differ, minutes });
  }
}

const specOf = (side: 'before' | 'after', set: Values): Record<string, number> =>
  Object.fromEntries(Object.entries(set).map(([setting, value]) => [keyOf(side, setting), value]));

/** Values of one set for the settings that another has. */
const withSame = (all: Values, like: Values): Values =>
  Object.fromEntries((Object.keys(like) as Setting[]).map((setting) => [setting, all[setting]]));

function worsened(now: Values, seed: number): Values {
  const random = seeded(Math.imul(seed, 0x2c1b3c6d));
  const left = (Object.keys(WORSE) as Setting[]).filter((setting) => now[setting] !== undefined);
  const worse = { ...now };
  for (let n = 0; n < AT_ONCE && left.length > 0; n++) {
    const [setting] = left.splice(Math.floor(random() * left.length), 1) as [Setting];
    worse[setting] = snap(WORSE[setting]!(now[setting]!), settingInfo(setting).resolution);
  }
  return worse;
}
