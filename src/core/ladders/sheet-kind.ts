/** Makes a kind of flat pattern: what it says of its sheet is all that checking and planning need. */

import type { Bench } from '../bench/bench';
import { sheetChecks, sheetPlan, type Sheet } from './sheet';
import type { LadderKind } from './types';

/** A kind that is told by its sheet; its `check` says only what no other pattern has to keep to. */
export type SheetKind<Spec extends object> = Omit<LadderKind<Spec>, 'plan' | 'draft'> & {
  sheet(spec: Spec, bench: Bench): Sheet;
};

export function sheetKind<Spec extends object>({
  sheet,
  ...kind
}: SheetKind<Spec>): LadderKind<Spec> {
  return {
    ...kind,
    check: (spec, bench) => [...kind.check(spec, bench), ...sheetChecks(sheet(spec, bench), bench)],
    plan: (spec, bench) => sheetPlan(sheet(spec, bench), bench),
  };
}
