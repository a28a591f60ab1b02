/** Makes a kind of flat pattern: what it says of its pattern is all that checking and laying need. */

import type { Bench } from '../bench/bench';
import { draftOf } from './flat-draft';
import { layPattern, patternChecks, type FlatPattern } from './flat-pattern';
import type { LadderKind } from './types';

/** A kind that is told by its pattern; its `check` says only what no other pattern has to keep to. */
export type PatternKind<Spec extends object> = Omit<LadderKind<Spec>, 'lay' | 'draft'> & {
  pattern(spec: Spec, bench: Bench): Omit<FlatPattern, 'axes'>;
};

/** The drawing is that of the file itself, unless `drafted`: where that takes longer than a drawing may wait. */
export function patternKind<Spec extends object>(
  { pattern, ...kind }: PatternKind<Spec>,
  { drafted = false } = {},
): LadderKind<Spec> {
  const lay = (spec: Spec, bench: Bench) =>
    layPattern({ ...pattern(spec, bench), axes: kind.axes(spec, bench) }, bench);
  return {
    ...kind,
    check: (spec, bench) => [
      ...kind.check(spec, bench),
      ...patternChecks(pattern(spec, bench), bench),
    ],
    lay,
    ...(drafted ? { draft: (spec: Spec, bench: Bench) => draftOf(lay(spec, bench)) } : {}),
  };
}
