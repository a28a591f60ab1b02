/** Makes a kind of flat pattern: what it says of its pattern is all that checking and laying need. */

import type { Bench } from '../bench/bench';
import { layPattern, patternChecks, type FlatPattern } from './flat-pattern';
import type { LadderKind } from './types';

/** A kind that is told by its pattern; its `check` says only what no other pattern has to keep to. */
export type PatternKind<Spec extends object> = Omit<LadderKind<Spec>, 'lay' | 'draft'> & {
  pattern(spec: Spec, bench: Bench): Omit<FlatPattern, 'axes'>;
};

export function patternKind<Spec extends object>({
  pattern,
  ...kind
}: PatternKind<Spec>): LadderKind<Spec> {
  return {
    ...kind,
    check: (spec, bench) => [
      ...kind.check(spec, bench),
      ...patternChecks(pattern(spec, bench), bench),
    ],
    lay: (spec, bench) =>
      layPattern({ ...pattern(spec, bench), axes: kind.axes(spec, bench) }, bench),
  };
}
