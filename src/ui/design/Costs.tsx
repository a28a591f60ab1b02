// What an input costs in time, and what saves most where a ladder is long.
import { Timer } from 'lucide-react';
import type { Costs as All } from '@/core/ladders/costs';
import type { Field } from '@/core/ladders/types';
import { short } from '@/core/numbers';

type Props = {
  costs: All;
  fields: Record<string, Field>;
  onPatch: (patch: Record<string, number>) => void;
};

export function Costs({ costs: { perRung, rungs, each, offer }, fields, onPatch }: Props) {
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
      <details className="rule-above">
        <summary className="min-h-11 cursor-pointer leading-[2.75rem]">
          A rung takes {short(perRung, 1)} min; what that depends on
        </summary>
        <ul aria-label="What each input costs">
          {each.map(({ key, by, minutes }) => (
            <li key={key} className="border-base-300 flex min-h-9 items-center gap-2 border-b">
              <span className="flex-1">
                {fields[key]!.label} {signed(by)} {fields[key]!.unit}
              </span>
              <b>{signed(minutes, 2)} min a rung</b>
            </li>
          ))}
          <li className="soft pt-2">
            {rungs} rungs: each one left out saves {short(perRung, 1)} min.
          </li>
        </ul>
      </details>
    </>
  );
}

const signed = (value: number, decimals = 3): string =>
  `${value > 0 ? '+' : '−'}${short(Math.abs(value), decimals)}`;
