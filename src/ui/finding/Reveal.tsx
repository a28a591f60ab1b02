'use client';
// What was hidden in the simulated machine, told when asked: to learn from, after one's own finding.
import { useState } from 'react';
import type { Answer } from '@/core/result';
import { ActButton } from '../common/ActButton';

type Truth = { name: string; value: string };

export function Reveal({ reveal }: { reveal: () => Promise<Answer<Truth[]>> }) {
  const [truths, setTruths] = useState<Truth[] | null>(null);
  return (
    <section className="rule-above" aria-label="What was hidden">
      <h2>What was hidden in this machine</h2>
      {truths ? (
        <dl>
          {truths.map(({ name, value }, i) => (
            <div key={name} className="border-base-300 flex items-baseline gap-3 border-b py-1">
              <dt className={`flex-1 ${i === 0 ? 'font-semibold' : 'soft'}`}>{name}</dt>
              <dd className={`whitespace-nowrap ${i === 0 ? 'text-xl font-semibold' : ''}`}>
                {value}
              </dd>
            </div>
          ))}
        </dl>
      ) : (
        <ActButton
          working={
            <>
              <span className="loading loading-spinner loading-sm" aria-hidden /> Printing a fine
              ladder, some seconds …
            </>
          }
          act={async () => {
            const answer = await reveal();
            if (answer.ok) setTruths(answer.value);
            return answer;
          }}
        >
          Reveal it
        </ActButton>
      )}
    </section>
  );
}
