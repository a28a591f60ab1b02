'use client';
// Five scores and "can't tell" in a row. Native radio inputs bring focus and screen-reader words for free.
import { useId } from 'react';
import { SCORE_WORDS, type Score } from '@/core/reading/types';

type Props = {
  label: string;
  /** undefined: not answered; null: can't tell. */
  value: Score | null | undefined;
  onScore: (score: Score | null) => void;
  /** Digits alone, where rows are close together. */
  compact?: boolean;
};

export function ScoreRow({ label, value, onScore, compact = false }: Props) {
  const group = useId();
  const choices = [
    ...SCORE_WORDS.map((word, score) => ({
      score: score as Score | null,
      mark: String(score),
      word,
    })),
    { score: null, mark: '?', word: 'unsure' },
  ];
  return (
    <fieldset className={`grid grid-cols-6 gap-1 ${compact ? 'h-full min-h-9' : ''}`}>
      <legend className="sr-only">{label}</legend>
      {choices.map(({ score, mark, word }) => (
        <label
          key={mark}
          className={`border-secondary has-checked:border-primary has-checked:bg-primary has-checked:text-primary-content has-focus-visible:outline-primary flex cursor-pointer flex-col items-center justify-center rounded border has-focus-visible:outline-3 ${
            compact ? '' : 'h-11'
          }`}
        >
          <input
            type="radio"
            name={group}
            className="sr-only"
            aria-label={score === null ? 'can’t tell' : `${mark} ${word}`}
            checked={value === score}
            onChange={() => onScore(score)}
          />
          <span className="text-lg leading-none font-semibold">{mark}</span>
          {!compact && <span className="text-[12px] leading-tight">{word}</span>}
        </label>
      ))}
    </fieldset>
  );
}
