'use client';
// A button for one act on the server: shows that it is under way, and what went wrong.
import { useState, useTransition, type ReactNode } from 'react';
import type { Problem } from '@/core/result';
import { Problems } from './Problems';

/** What an act on the server answers. */
export type Outcome = { ok: true } | { ok: false; problems: Problem[] };
type Props = {
  act: () => Promise<Outcome | void>;
  children: ReactNode;
  className?: string;
  label?: string;
};

export function ActButton({ act, children, className = 'btn-quiet', label }: Props) {
  const [busy, start] = useTransition();
  const [problems, setProblems] = useState<Problem[]>([]);
  return (
    <>
      <button
        type="button"
        className={className}
        aria-label={label}
        aria-busy={busy}
        disabled={busy}
        onClick={() =>
          start(async () => {
            const outcome = await act();
            setProblems(outcome && !outcome.ok ? outcome.problems : []);
          })
        }
      >
        {children}
      </button>
      <Problems problems={problems} />
    </>
  );
}
