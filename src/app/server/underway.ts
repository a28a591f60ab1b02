/** What is under way on a bench, ladder by ladder. */

import 'server-only';
import type { Underway } from '@/core/route/route';
import { copiesOf } from './ladder';
import { store } from './store';

/** The newest ladder first. Ladders whose value went into the ledger are no longer under way. */
export function underwayOf(benchId: number): Underway[] {
  const { ladders, ledger } = store();
  const settled = new Set(ledger.current(benchId).map(({ ladderId }) => ladderId));
  return ladders
    .ofBench(benchId)
    .filter(({ id }) => !settled.has(id))
    .map(({ id, kind }) => {
      const copies = copiesOf(id);
      const newest = copies.at(-1);
      const looks = newest?.readings ?? [];
      const state = !newest
        ? ('designed' as const)
        : !looks.some(({ begun }) => begun)
          ? ('printed' as const)
          : looks.some(({ begun, complete }) => begun && !complete)
            ? ('reading' as const)
            : ('read' as const);
      return { kind, ladder: id, state };
    });
}
