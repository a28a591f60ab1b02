/** `ash loop` of a proof: how often a worsened machine is called worse, and equal sets the same. */

import type { Bench } from '../core/bench/bench';
import type { LadderKind } from '../core/ladders/types';
import { mean, short } from '../core/numbers';
import { CASES, ProofLoop, type ProofCase, type ProofTrial } from '../rehearsal/proof-loop';
import { must, print } from './io';

const WANTED: Record<ProofCase, string> = { equal: 'same', worsened: 'worse', found: 'better' };

export function rehearseProof(
  kind: LadderKind,
  bench: Bench,
  seeds: readonly number[],
  json: boolean,
): void {
  const loop = must(ProofLoop.on(kind, bench));
  const trials = seeds.map((seed) => {
    const trial = must(loop.trial(seed));
    if (!json) print(trialLine(trial));
    return trial;
  });
  const count = (of: ProofCase) => trials.filter(({ told }) => told[of] === WANTED[of]).length;
  const s = {
    count: trials.length,
    same: count('equal'),
    worse: count('worsened'),
    better: count('found'),
    minutes: mean(trials.map(({ minutes }) => minutes)),
  };
  if (json) return print(JSON.stringify({ kind: kind.id, trials, ...s }));
  print(`${s.same} of ${s.count} equal sets are called the same`);
  print(`${s.worse} of ${s.count} worsened machines are called worse`);
  print(`${s.better} of ${s.count} are called better with what was found than without`);
  print(`${short(s.minutes, 0)} min a proof`);
}

function trialLine({ seed, told, differ }: ProofTrial): string {
  const said = CASES.map(
    (of) => `${of}${of === 'worsened' ? ` (${differ[of].join(', ')})` : ''}: ${told[of]}`,
  );
  return [`seed ${seed}`, ...said].join(' · ');
}
