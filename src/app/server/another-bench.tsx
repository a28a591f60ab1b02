/** The same ladder for another bench: a new spool is the commonest reason to print one again. */

import 'server-only';
import { benchTitle } from '@/core/bench/bench';
import type { LadderKind } from '@/core/ladders/types';
import type { Ladder } from '@/store/ladders';
import { ActButton } from '@/ui/common/ActButton';
import { sameLadder } from '../actions/ladders';
import { store } from './store';

/** Most benches that are offered, the newest first. */
const MOST_OFFERED = 6;

export function AnotherBench({ ladder, kind }: { ladder: Ladder; kind: LadderKind }) {
  const { benches } = store();
  const others = benches
    .titles(2 * MOST_OFFERED)
    .flatMap(({ id }) => benches.get(id) ?? [])
    .filter(({ id, bench }) => id !== ladder.benchId && !kind.unfit?.(bench))
    .slice(0, MOST_OFFERED);
  if (others.length === 0) return null;
  return (
    <section className="rule-above">
      <h2>Same ladder for another bench</h2>
      <div className="flex flex-wrap gap-1.5">
        {others.map(({ id, bench }) => (
          <ActButton
            key={id}
            className="btn-quiet btn-sm"
            act={sameLadder.bind(null, ladder.id, id)}
          >
            {benchTitle(bench)}
          </ActButton>
        ))}
      </div>
    </section>
  );
}
