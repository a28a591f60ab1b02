/** What is under way on a bench, ladder by ladder. */

import 'server-only';
import { stillUnderway, type Underway } from '@/core/route/route';
import type { Progress } from '@/store/ladders';
import { store } from './store';

export const stateOf = ({ print, begun, partial }: Progress): Underway['state'] =>
  print === null ? 'designed' : begun === 0 ? 'printed' : partial > 0 ? 'reading' : 'read';

/** Older ladders than these are under way no more. */
const MOST_LOOKED = 200;

/** The newest ladder first. */
export function underwayOf(benchId: number): Underway[] {
  const { ladders, ledger } = store();
  const current = ledger.current(benchId);
  const settled = new Set(current.flatMap(({ ladderId, provenBy }) => [ladderId, provenBy]));
  return stillUnderway(
    ladders.progress(benchId, MOST_LOOKED).map((one) => ({
      kind: one.kind,
      ladder: one.id,
      state: stateOf(one),
      settled: settled.has(one.id),
    })),
  );
}
