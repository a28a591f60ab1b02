'use client';
// What an input costs in time, and what saves most where a ladder is long.
import { Timer } from 'lucide-react';
import { useEffect, useState } from 'react';
import type { Costs as All } from '@/core/ladders/costs';
import { LONG_MINUTES } from '@/core/plan/limits';
import type { Field } from '@/core/ladders/types';
import { short } from '@/core/numbers';

type Props = {
  rungs: number;
  /** Of printing, heating left out. */
  minutes: number;
  /** Null until they are worked out. */
  costs: All | null;
  /** Whether they are wanted: for a long ladder, and while somebody looks at them. */
  ask: (wanted: boolean) => void;
  fields: Record<string, Field>;
  onPatch: (patch: Record<string, number>) => void;
};

export function Costs({ rungs, minutes, costs, ask, fields, onPatch }: Props) {
  const [open, setOpen] = useState(false);
  const wanted = open || minutes > LONG_MINUTES;
  useEffect(() => ask(wanted));
  if (rungs < 2) return null;
  const perRung = minutes / rungs;
  const offer = costs?.offer;
  return (
    <>
      {offer && (
        <p className="mt-3 flex gap-3">
          <Timer className="text-neutral mt-1 shrink-0" size={18} aria-label="Saves time" />
          <span>
            This ladder is long.{' '}
            <button type="button" className="btn-quiet btn-sm" onClick={() => onPatch(offer.patch)}>
              {offer.label}
            </button>{' '}
            saves {short(offer.saves, 0)} min.
          </span>
        </p>
      )}
      <details className="rule-above" onToggle={({ currentTarget }) => setOpen(currentTarget.open)}>
        <summary className="min-h-11 cursor-pointer leading-[2.75rem]">
          A rung takes {short(perRung, 1)} min; what that depends on
        </summary>
        {costs ? (
          <ul aria-label="What each input costs">
            {costs.each.map(({ key, by, minutes: more }) => (
              <li key={key} className="border-base-300 flex min-h-9 items-center gap-2 border-b">
                <span className="flex-1">
                  {fields[key]!.label} {signed(by)} {fields[key]!.unit}
                </span>
                <b>{signed(more, 2)} min a rung</b>
              </li>
            ))}
            <li className="soft pt-2">Each rung left out saves {short(perRung, 1)} min.</li>
          </ul>
        ) : (
          <p className="soft" role="status">
            The ladder is made once with each input changed …
          </p>
        )}
      </details>
    </>
  );
}

const signed = (value: number, decimals = 3): string =>
  `${value > 0 ? '+' : '−'}${short(Math.abs(value), decimals)}`;
