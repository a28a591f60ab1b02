'use client';
// A button for one act on the server: shows that it is under way, and what went wrong.
import { useId, useState, useTransition, type ReactNode } from 'react';
import type { Problem } from '@/core/result';
import { attempt, type Outcome } from './attempt';
import { keepFocus } from './focus';
import { Problems } from './Problems';

export type { Outcome };
type Props = {
  act: () => Promise<Outcome | void>;
  children: ReactNode;
  className?: string;
  label?: string;
  /** What stands in the button while it works. */
  working?: ReactNode;
};

export function ActButton({ act, children, className = 'btn-quiet', label, working }: Props) {
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
        aria-disabled={busy}
        onClick={() => {
          if (busy) return;
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
