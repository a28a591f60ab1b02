/** Makes a kind of flat pattern: what it says of its sheet is all that checking and laying need. */

import type { Bench } from '../bench/bench';
import { laySheet, sheetChecks, type Sheet } from './sheet';
import type { LadderKind } from './types';

/** A kind that is told by its sheet; its `check` says only what no other pattern has to keep to. */
export type SheetKind<Spec extends object> = Omit<LadderKind<Spec>, 'lay' | 'draft'> & {
  sheet(spec: Spec, bench: Bench): Omit<Sheet, 'axes'>;
};

export function sheetKind<Spec extends object>({
  sheet,
  ...kind
}: SheetKind<Spec>): LadderKind<Spec> {
  return {
    ...kind,
    check: (spec, bench) => [...kind.check(spec, bench), ...sheetChecks(sheet(spec, bench), bench)],
    lay: (spec, bench) => laySheet({ ...sheet(spec, bench), axes: kind.axes(spec, bench) }, bench),
  };
}
