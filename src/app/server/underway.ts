/** What is under way on a bench, ladder by ladder. */

import 'server-only';
import type { Underway } from '@/core/route/route';
import type { Progress } from '@/store/ladders';
import { store } from './store';

export const stateOf = ({ print, begun, partial }: Progress): Underway['state'] =>
  print === null ? 'designed' : begun === 0 ? 'printed' : partial > 0 ? 'reading' : 'read';

/** The newest ladder first. Ladders whose value went into the ledger are no longer under way. */
export function underwayOf(benchId: number): Underway[] {
  const { ladders, ledger } = store();
  const settled = new Set(ledger.current(benchId).map(({ ladderId }) => ladderId));
  return ladders
    .progress(benchId)
    .filter(({ id }) => !settled.has(id))
    .map((one) => ({ kind: one.kind, ladder: one.id, state: stateOf(one) }));
}
