'use client';
// What sends a form, and in its place a word where this device may not.
import type { ReactNode } from 'react';
import type { Right } from '@/core/rights';
import { NotHere, useHere } from './Rights';

type Props = { busy: boolean; needs: Right; children: ReactNode };

export function SubmitButton({ busy, needs, children }: Props) {
  const may = useHere().rights.includes(needs);
  return (
    <>
      <NotHere right={needs} />
      <button
        type="submit"
        className="btn-main"
        aria-busy={busy}
        // Without it no key sends the form either.
        disabled={!may}
        aria-disabled={busy}
      >
        {children}
      </button>
    </>
  );
}
