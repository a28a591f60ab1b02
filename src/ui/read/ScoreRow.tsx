'use client';
// Five scores and "can't tell" in a row. Native radio inputs bring focus and screen-reader words for free.
import { useEffect, useId, useRef } from 'react';
import { SCORE_WORDS, type Score } from '@/core/reading/types';

type Props = {
  label: string;
  /** undefined: not answered; null: can't tell. */
  value: Score | null | undefined;
  onScore: (score: Score | null) => void;
  /** Whether this is the one cell that keys speak of. */
  current: boolean;
  /** Told when the focus comes here. */
  onFocus: () => void;
  /** Grows with every step by keys: the focus goes where the current cell is. */
  follow: number;
  /** Digits alone, where rows are close together. */
  compact?: boolean;
};

/** What may be said of a cell. */
export const CHOICES = [
  ...SCORE_WORDS.map((word, score) => ({
    score: score as Score | null,
    mark: String(score),
    word,
  })),
  { score: null, mark: '?', word: 'unsure' },
];

export function ScoreRow({
  label,
  value,
  onScore,
  current,
  onFocus,
  follow,
  compact = false,
}: Props) {
  const group = useId();
  const row = useRef<HTMLFieldSetElement>(null);
  useEffect(() => {
    const element = row.current;
    if (!current || follow === 0 || !element || element.contains(document.activeElement)) return;
    const radio =
      element.querySelector<HTMLInputElement>('input:checked') ??
      element.querySelector<HTMLInputElement>('input');
    radio?.focus({ preventScroll: true });
    element.scrollIntoView({ block: 'nearest' });
  }, [current, follow]);
  return (
    <fieldset
      ref={row}
      aria-current={current}
      className={`grid grid-cols-6 gap-1 ${compact ? 'h-full min-h-9' : ''}`}
      onFocus={onFocus}
    >
      <legend className="sr-only">{label}</legend>
      {CHOICES.map(({ score, mark, word }) => (
        <label
          key={mark}
          className={`border-secondary has-checked:border-primary has-checked:bg-primary has-checked:text-primary-content has-focus-visible:outline-primary relative flex min-w-6 cursor-pointer flex-col items-center justify-center rounded border has-focus-visible:outline-3 ${
            compact ? '' : 'h-11'
          }`}
        >
          <input
            type="radio"
            name={group}
            className="sr-only"
            aria-label={score === null ? 'can’t tell' : `${mark} ${word}`}
            checked={value === score}
            // One stop of Tab a row, also where nothing is chosen yet.
            tabIndex={score === (value === undefined ? 0 : value) ? 0 : -1}
            onChange={() => onScore(score)}
          />
          <span className="text-lg leading-none font-semibold">{mark}</span>
          {!compact && (
            <span className="text-[12px] leading-tight max-[340px]:hidden xl:text-[11px]">
              {word}
            </span>
          )}
        </label>
      ))}
    </fieldset>
  );
}
