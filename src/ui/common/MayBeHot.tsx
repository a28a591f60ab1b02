'use client';
// On every page: machines that may be hot after something ended, until they were seen to cool or a person says so.
import { useEffect, useState } from 'react';
import type { Owed } from '@/core/link-state';
import { owedSaid, whenSaid } from '@/core/owed';
import { ActButton, type Outcome } from './ActButton';
import { followLive } from './live';

const TOPIC = '/owed';

type Props = {
  first: Owed[];
  nowMs: number;
  isOff: (address: string) => Promise<Outcome>;
};

export function MayBeHot({ first, nowMs, isOff }: Props) {
  const [owed, setOwed] = useState(first);
  useEffect(() => {
    const look = async () => {
      const answer = await fetch(TOPIC, { cache: 'no-store' }).catch(() => null);
      if (answer?.ok) setOwed((await answer.json()) as Owed[]);
    };
    return followLive(TOPIC, () => void look());
  }, []);
  // What answers and cools is the business of its own page.
  const loud = owed.filter(({ state }) => state !== 'told');
  if (loud.length === 0) return null;
  return (
    <aside role="alert" aria-label="May be hot">
      {loud.map((one) => (
        <div
          key={one.address}
          className="border-warning bg-warning/15 flex flex-wrap items-center gap-x-4 gap-y-2 border-l-8 px-4 py-3"
        >
          <p className="min-w-0 flex-1 basis-72 text-lg" suppressHydrationWarning>
            {owedSaid(one, whenSaid(one.since, nowMs))}
          </p>
          <ActButton
            className="btn-quiet"
            needs="start"
            label={`${one.name} is off`}
            act={() => isOff(one.address)}
          >
            It is off
          </ActButton>
        </div>
      ))}
    </aside>
  );
}
