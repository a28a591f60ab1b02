'use client';
// What a ladder costs, as soon as it is known: a file has to be made to tell it.
import { useEffect, useState } from 'react';
import { short } from '@/core/numbers';
import type { Price as Cost } from '@/core/price';
import { duration } from '../common/format';

/** Asked for once while a page is open, whoever shows it. */
const asked = new Map<string, Promise<Cost | null>>();

function ask(address: string): Promise<Cost | null> {
  const before = asked.get(address);
  if (before) return before;
  const answer = fetch(address, { cache: 'no-store' })
    .then(async (response) => {
      if (!response.ok) throw new Error(`the program answered ${response.status}`);
      return (await response.json()) as Cost | null;
    })
    // Without it the page does as well; it is asked for again the next time.
    .catch(() => {
      asked.delete(address);
      return null;
    });
  asked.set(address, answer);
  return answer;
}

/** @param stamp changes with the bench: what it cost before is not what it costs now */
export function Price({ bench, kind, stamp }: { bench: number; kind: string; stamp: string }) {
  const [known, setKnown] = useState<{ of: string; cost: Cost | null } | null>(null);
  const address = `/bench/${bench}/price?${new URLSearchParams({ kind, at: stamp })}`;
  useEffect(() => {
    let gone = false;
    void ask(address).then((cost) => {
      if (!gone) setKnown({ of: address, cost });
    });
    return () => {
      gone = true;
    };
  }, [address]);
  const cost = known?.of === address ? known.cost : undefined;
  // Its line keeps its height: nothing jumps when the answer comes.
  return (
    <span className="soft whitespace-nowrap">
      {cost === undefined
        ? '…'
        : cost &&
          [
            cost.rungs > 1 ? `${cost.rungs} rungs` : null,
            duration(60 * cost.minutes),
            cost.grams > 0 ? `${short(cost.grams, 1)} g` : null,
          ]
            .filter(Boolean)
            .join(' · ')}
    </span>
  );
}
