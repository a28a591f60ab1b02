'use client';
// A step that cannot be taken yet: quiet, and when it is pressed it says what comes first.
import { useId, useState } from 'react';

export function NotYet({ label, first }: { label: string; first: string }) {
  const [asked, setAsked] = useState(false);
  const id = useId();
  return (
    <span className="relative flex max-sm:flex-1">
      <button
        type="button"
        aria-expanded={asked}
        aria-describedby={asked ? id : undefined}
        className="text-neutral flex min-h-11 flex-1 items-center justify-center border-b-[3px] border-transparent px-3 max-sm:px-1.5 max-sm:text-[15px]"
        onClick={() => setAsked(!asked)}
        onBlur={() => setAsked(false)}
      >
        {label}
      </button>
      <span role="status" id={id}>
        {asked && (
          <span className="bg-base-200 border-base-300 absolute top-full right-0 z-20 w-max max-w-64 rounded border px-3 py-2 max-sm:fixed max-sm:inset-x-4 max-sm:top-32 max-sm:w-auto max-sm:max-w-none">
            {first}
          </span>
        )}
      </span>
    </span>
  );
}
