'use client';
// What an input costs in time, and what saves most where a ladder is long.
import { Timer } from 'lucide-react';
import type { Costs as All } from '@/core/ladders/costs';
import type { Field } from '@/core/ladders/types';
import { short } from '@/core/numbers';

type Props = {
  /** Printing time of a rung, min, heating left out. */
  perRung: number;
  /** Null until they are worked out. */
  costs: All | null;
  fields: Record<string, Field>;
  /** Whether somebody looks at them. */
  onOpen: (open: boolean) => void;
};

export function Costs({ perRung, costs, fields, onOpen }: Props) {
  return (
    <details
      className="border-base-300 border-t"
      onToggle={({ currentTarget }) => onOpen(currentTarget.open)}
    >
      <summary className="min-h-11 cursor-pointer leading-[2.75rem]">
        A rung takes {inTime(perRung)}; what that depends on
      </summary>
      {costs ? (
        <ul aria-label="What each input costs" className="pb-3">
          {costs.each.map(({ key, by, minutes }) => (
            <li key={key} className="border-base-300 flex min-h-9 items-center gap-2 border-b">
              <span className="flex-1">
                {fields[key]!.label} {signed(by)} {fields[key]!.unit}
              </span>
              <b>{signed(minutes, 2)} min a rung</b>
            </li>
          ))}
          <li className="soft pt-2">Each rung left out saves {inTime(perRung)}.</li>
        </ul>
      ) : (
        <p className="soft pb-3" role="status">
          The ladder is made once with each input changed …
        </p>
      )}
    </details>
  );
}

type SavingProps = {
  offer: NonNullable<All['offer']>;
  onPatch: (patch: Record<string, number>) => void;
};

/** The one change that saves most. */
export function Saving({ offer: { label, patch, saves }, onPatch }: SavingProps) {
  return (
    <p className="mt-3 flex gap-3">
      <Timer className="text-neutral mt-1 shrink-0" size={18} aria-label="Saves time" />
      <span>
        This ladder is long.{' '}
        <button type="button" className="btn-quiet btn-sm" onClick={() => onPatch(patch)}>
          {label}
        </button>{' '}
        saves {short(saves, 0)} min.
      </span>
    </p>
  );
}

const inTime = (minutes: number): string =>
  minutes < 1 ? `${Math.round(60 * minutes)} s` : `${short(minutes, 1)} min`;

const signed = (value: number, decimals = 3): string =>
  `${value > 0 ? '+' : '−'}${short(Math.abs(value), decimals)}`;
