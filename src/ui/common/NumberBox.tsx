'use client';
// A number as it is typed: what stands in the box is the user's until it is a number, and a wrong one stays, marked.
import { useEffect, useId, useRef, useState } from 'react';
import { readTyped } from '@/core/typed-number';

type Props = {
  label: string;
  value: number | null;
  onChange: (value: number) => void;
  name?: string;
  unit?: string;
  className?: string;
  /** Wrong for another reason than that it is no number. */
  wrong?: boolean;
  /** What is allowed; for arrow keys too. */
  min?: number;
  max?: number;
  step?: number;
  /** An empty box is no mistake. */
  onEmpty?: () => void;
  /** Grows with what stands in it. */
  grows?: boolean;
  /** Said below it, or beside it. */
  told?: 'below' | 'hidden';
};

export function NumberBox({
  label,
  value,
  onChange,
  name,
  unit = '',
  className,
  wrong = false,
  min = -Infinity,
  max = Infinity,
  step,
  onEmpty,
  grows = false,
  told = 'below',
}: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const says = useId();
  const box = useRef<HTMLInputElement>(null);
  const text = typed ?? (value === null || Number.isNaN(value) ? '' : String(value));
  const why = typed === null ? null : whyWrong(typed, onEmpty !== undefined);
  // For whoever asks the page whether all is right: see firstWrong.
  useEffect(() => box.current?.setCustomValidity(why ?? ''), [why]);
  return (
    <>
      <input
        ref={box}
        name={name}
        type="text"
        inputMode="decimal"
        autoComplete="off"
        aria-label={unit ? `${label}, ${unit}` : label}
        aria-invalid={wrong || why !== null}
        aria-describedby={why ? says : undefined}
        data-label={label}
        className={className}
        {...(grows ? { size: Math.max(2, text.length) } : {})}
        value={text}
        onChange={({ target }) => {
          setTyped(target.value);
          if (target.value.trim() === '' && onEmpty) return onEmpty();
          const read = readTyped(target.value);
          if (read.ok) onChange(read.value);
        }}
        onKeyDown={(event) => {
          const sign = event.key === 'ArrowUp' ? 1 : event.key === 'ArrowDown' ? -1 : 0;
          if (sign === 0 || step === undefined || value === null) return;
          event.preventDefault();
          setTyped(null);
          onChange(Number(Math.min(max, Math.max(min, value + sign * step)).toFixed(6)));
        }}
        onBlur={() => why === null && setTyped(null)}
      />
      {why !== null && (
        <span
          id={says}
          role="alert"
          className={told === 'hidden' ? 'sr-only' : 'text-error block w-full text-sm'}
        >
          {why}
        </span>
      )}
    </>
  );
}

function whyWrong(text: string, mayBeEmpty: boolean): string | null {
  if (text.trim() === '' && mayBeEmpty) return null;
  const read = readTyped(text);
  return read.ok ? null : read.why;
}

/** The first box of the page that holds no number, focused; null when all do. Nothing is made or saved before. */
export function firstWrong(root: ParentNode = document): { label: string; why: string } | null {
  for (const box of root.querySelectorAll<HTMLInputElement>('input[data-label]')) {
    if (box.validationMessage === '') continue;
    for (let one: Element | null = box; one; one = one.parentElement)
      if (one instanceof HTMLDetailsElement) one.open = true;
    box.focus();
    return { label: box.dataset.label ?? '', why: box.validationMessage };
  }
  return null;
}

/** The same as a problem in words, for what was not done because of it. */
export const wrongProblem = (root?: ParentNode) => {
  const wrong = firstWrong(root);
  return (
    wrong && { where: wrong.label, label: wrong.label, what: wrong.why, mend: 'Correct it first.' }
  );
};
