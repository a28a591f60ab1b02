'use client';
// Numbers measured on a print, several of each, with their scatter; or the pair of a vernier that lines up.
import { useState } from 'react';
import { mean, short } from '@/core/numbers';
import { NumberBox } from '../common/NumberBox';

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
  measures: readonly MeasureField[];
  measured: Record<string, number[]>;
  keep: (key: string, values: number[]) => void;
};

export function MeasureForm({ measures, measured, keep }: Props) {
  return (
    <div className="space-y-6">
      {measures.map((one) => (
        <Measured key={one.key} field={one} values={measured[one.key] ?? []} keep={keep} />
      ))}
    </div>
  );
}

type MeasuredProps = { field: MeasureField; values: number[]; keep: Props['keep'] };

function Measured({ field, values, keep }: MeasuredProps) {
  const { key, label, unit, most, min, max, choices, how, fewest } = field;
  /** What was typed and can't be, by its place: it stays in its box and is not kept. */
  const [odd, setOdd] = useState<Record<number, number>>({});
  const put = (place: number, value: number | null) => {
    const { [place]: _mended, ...rest } = odd;
    const outside = value !== null && (value < min || value > max);
    setOdd(outside ? { ...rest, [place]: value } : rest);
    if (outside) return;
    const next = values.map((one, i) => (i === place ? value : one));
    if (place >= values.length && value !== null) next.push(value);
    keep(
      key,
      next.filter((one) => one !== null),
    );
  };
  const choose = (value: number) =>
    keep(
      key,
      values.includes(value)
        ? values.filter((one) => one !== value)
        : [...values, value].slice(-most),
    );
  // One empty place more than was filled, up to the most.
  const places = Math.min(most, Math.max(fewest, values.length + 1));
  const wrong = Object.values(odd)[0];
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
              aria-pressed={values.includes(value)}
              className={`btn h-12 min-w-14 px-2 font-normal ${values.includes(value) ? 'btn-chosen' : ''}`}
              onClick={() => choose(value)}
            >
              {short(value, 2)}
            </button>
          ))}
        </div>
      ) : (
        <div className="flex flex-wrap gap-2">
          {Array.from({ length: places }, (_, i) => (
            <div key={i} className="w-36">
              <div className="input w-full">
                <NumberBox
                  label={`${label}, ${i + 1}`}
                  unit={unit}
                  value={odd[i] ?? values[i] ?? null}
                  wrong={odd[i] !== undefined}
                  told="hidden"
                  onChange={(value) => put(i, value)}
                  onEmpty={() => put(i, null)}
                />
                <span className="soft">{unit}</span>
              </div>
            </div>
          ))}
        </div>
      )}
      {wrong !== undefined && (
        <p role="alert" className="text-error mt-2">
          {short(wrong)} {unit} was entered; {short(min)} to {short(max)} {unit} can be. It is not
          kept until it is corrected.
        </p>
      )}
      {!choices && values.length > 1 && (
        <p className="mt-2">
          Mean <b>{short(mean(values), 3)}</b> {unit}, {short(Math.min(...values), 3)} to{' '}
          {short(Math.max(...values), 3)} {unit}: {short(spread(values), 1)} % apart.
        </p>
      )}
    </fieldset>
  );
}

const spread = (values: readonly number[]): number =>
  (100 * (Math.max(...values) - Math.min(...values))) / Math.abs(mean(values) || 1);
