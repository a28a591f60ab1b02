/** Defaults that a small bed has room for. */

import type { Bench } from '../bench/bench';
import type { LadderKind } from './types';

/** A kind whose defaults are the first of several that nothing stands against; where none fits, the usual ones. */
export function fitting<Spec extends object>(
  kind: LadderKind<Spec>,
  smaller: (usual: Spec) => Spec[],
): LadderKind<Spec> {
  const defaults = (bench: Bench): Spec => {
    const usual = kind.defaults(bench);
    const fits = (spec: Spec) => kind.check(spec, bench).every(({ grade }) => grade !== 'stop');
    return [usual, ...smaller(usual)].find(fits) ?? usual;
  };
  return { ...kind, defaults };
}
