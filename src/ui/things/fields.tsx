'use client';
// Labelled inputs for descriptions of things.
import type { ReactNode } from 'react';
import { NumberBox } from '../common/NumberBox';

export function Labelled({ label, children }: { label: string; children: ReactNode }) {
  return (
    <label className="block">
      <span className="soft mb-1 block">{label}</span>
      {children}
    </label>
  );
}

type NumberProps = {
  label: string;
  unit?: string;
  value: number;
  onChange: (value: number) => void;
};

/** A number with its unit; half-typed text stays the user's until it is one. */
export function NumberField({ label, unit = '', value, onChange }: NumberProps) {
  return (
    <div>
      <span className="soft mb-1 block" aria-hidden>
        {label}
      </span>
      <span className="input w-full">
        <NumberBox label={label} unit={unit} value={value} told="hidden" onChange={onChange} />
        {unit && <span className="soft">{unit}</span>}
      </span>
    </div>
  );
}

export function TextField({
  label,
  value,
  onChange,
  mono = false,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  mono?: boolean;
}) {
  return (
    <Labelled label={label}>
      <input
        className={`input w-full ${mono ? 'font-mono text-sm' : ''}`}
        aria-label={label}
        value={value}
        onChange={({ target }) => onChange(target.value)}
      />
    </Labelled>
  );
}

export function ChoiceField<T extends string>({
  label,
  value,
  choices,
  onChange,
}: {
  label: string;
  value: T;
  choices: Record<T, string>;
  onChange: (value: T) => void;
}) {
  return (
    <Labelled label={label}>
      <select
        className="select w-full"
        aria-label={label}
        value={value}
        onChange={({ target }) => onChange(target.value as T)}
      >
        {(Object.entries(choices) as [T, string][]).map(([key, title]) => (
          <option key={key} value={key}>
            {title}
          </option>
        ))}
      </select>
    </Labelled>
  );
}
