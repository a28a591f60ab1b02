'use client';
// Numbers measured on a print, several of each, with their scatter; or the pair of a vernier that lines up.
import { useRef, useState } from 'react';
import { mean, short } from '@/core/numbers';
import type { Problem } from '@/core/result';
import type { Outcome } from '../common/ActButton';
import { Problems } from '../common/Problems';

export type MeasureField = {
  key: string;
  label: string;
  unit: string;
  min: number;
  max: number;
  fewest: number;
  most: number;
  how: string;
  /** Values to choose among, or null to type one. */
  choices: number[] | null;
};

type Props = {
  measures: MeasureField[];
  measured: Record<string, number[]>;
  keep: (key: string, values: number[]) => Promise<Outcome>;
};

/** Numbers are kept this long after the last key, ms. */
const KEEP_AFTER_MS = 500;

export function MeasureForm({ measures, measured, keep }: Props) {
  return (
    <div className="space-y-6">
      {measures.map((one) => (
        <Measured key={one.key} field={one} first={measured[one.key] ?? []} keep={keep} />
      ))}
    </div>
  );
}

const numberOf = (text: string): number | null =>
  /^\s*-?\d+([.,]\d+)?\s*$/.test(text) ? Number(text.replace(',', '.')) : null;

function Measured({
  field,
  first,
  keep,
}: {
  field: MeasureField;
  first: number[];
  keep: Props['keep'];
}) {
  const { key, label, unit, most, choices, how, fewest } = field;
  const [texts, setTexts] = useState(first.map(String));
  const [problems, setProblems] = useState<Problem[]>([]);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const numbers = texts.map(numberOf).filter((one) => one !== null);

  const put = (next: string[], after = KEEP_AFTER_MS) => {
    setTexts(next);
    clearTimeout(timer.current);
    const values = next.map(numberOf).filter((one) => one !== null);
    timer.current = setTimeout(
      () =>
        void keep(key, values).then((outcome) => setProblems(outcome.ok ? [] : outcome.problems)),
      after,
    );
  };
  const choose = (value: number) => {
    const text = String(value);
    const without = texts.filter((one) => one !== text);
    put(without.length < texts.length ? without : [...texts, text].slice(-most), 0);
  };
  // One empty place more than was filled, up to the most.
  const places = Math.min(most, Math.max(fewest, texts.filter((one) => one !== '').length + 1));
  return (
    <fieldset>
      <legend className="text-lg font-semibold">{label}</legend>
      <p className="soft mb-2">{how}</p>
      {choices ? (
        <div className="flex flex-wrap gap-1" role="group" aria-label={label}>
          {choices.map((value) => (
            <button
              key={value}
              type="button"
              aria-pressed={numbers.includes(value)}
              className={`btn h-12 min-w-14 px-2 font-normal ${numbers.includes(value) ? 'btn-neutral' : ''}`}
              onClick={() => choose(value)}
            >
              {short(value, 2)}
            </button>
          ))}
        </div>
      ) : (
        <div className="flex flex-wrap gap-2">
          {Array.from({ length: places }, (_, i) => (
            <label key={i} className="input w-32">
              <input
                type="text"
                inputMode="decimal"
                autoComplete="off"
                aria-label={`${label}, ${i + 1}${unit ? `, ${unit}` : ''}`}
                aria-invalid={(texts[i] ?? '') !== '' && numberOf(texts[i]!) === null}
                value={texts[i] ?? ''}
                onChange={({ target }) => {
                  const next = Array.from({ length: places }, (_, n) => texts[n] ?? '');
                  next[i] = target.value;
                  while (next.at(-1) === '') next.pop();
                  put(next);
                }}
              />
              <span className="soft">{unit}</span>
            </label>
          ))}
        </div>
      )}
      {!choices && numbers.length > 1 && (
        <p className="mt-2">
          Mean <b>{short(mean(numbers), 3)}</b> {unit}, {short(Math.min(...numbers), 3)} to{' '}
          {short(Math.max(...numbers), 3)} {unit}: {short(spread(numbers), 1)} % apart.
        </p>
      )}
      <Problems problems={problems} />
    </fieldset>
  );
}

const spread = (values: readonly number[]): number =>
  (100 * (Math.max(...values) - Math.min(...values))) / Math.abs(mean(values) || 1);
