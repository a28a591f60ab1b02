'use client';
// A button for one act on the server: shows that it is under way, and what went wrong.
import { useId, useState, useTransition, type ReactNode } from 'react';
import type { Problem } from '@/core/result';
import { mayNot, type Right } from '@/core/rights';
import { attempt, type Outcome } from './attempt';
import { keepFocus } from './focus';
import { Problems } from './Problems';
import { useHere } from './Rights';

export type { Outcome };
type Props = {
  act: () => Promise<Outcome | void>;
  children: ReactNode;
  className?: string;
  label?: string;
  /** What stands in the button while it works. */
  working?: ReactNode;
  /** What must be allowed on this device; otherwise the button says so instead of failing. */
  needs?: Right;
};

export function ActButton({
  act,
  children,
  className = 'btn-quiet',
  label,
  working,
  needs,
}: Props) {
  const { rights } = useHere();
  const barred = needs !== undefined && !rights.includes(needs);
  const [busy, start] = useTransition();
  const [problems, setProblems] = useState<Problem[]>([]);
  const id = useId();
  return (
    <>
      <button
        type="button"
        id={id}
        className={className}
        aria-label={label}
        aria-busy={busy}
        // Not `disabled`: that would throw the focus away.
        aria-disabled={busy || barred}
        onClick={() => {
          if (busy) return;
          if (barred) return setProblems([mayNot(needs)]);
          const back = keepFocus(id);
          start(async () => {
            const outcome = await attempt(act);
            setProblems(outcome && !outcome.ok ? outcome.problems : []);
            back();
          });
        }}
      >
        {busy && working ? working : children}
      </button>
      <Problems problems={problems} />
    </>
  );
}
