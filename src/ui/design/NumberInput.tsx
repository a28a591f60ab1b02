'use client';
// A number that may be half typed: what stands in the box is the user's, what goes out is a number.
import { useState } from 'react';
import type { Field } from '@/core/ladders/types';

type Props = {
  name: string;
  field: Field;
  value: number;
  wrong: boolean;
  className?: string;
  onChange: (value: number) => void;
};

export function NumberInput({ name, field, value, wrong, className = '', onChange }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const shown = typed ?? String(value);
  const half = typed !== null && !isNumber(typed);
  return (
    <input
      name={name}
      aria-label={field.unit ? `${field.label}, ${field.unit}` : field.label}
      aria-invalid={wrong || half}
      type="text"
      inputMode="decimal"
      autoComplete="off"
      className={className}
      size={Math.max(2, shown.length)}
      value={shown}
      onChange={({ target }) => {
        setTyped(target.value);
        if (isNumber(target.value)) onChange(Number(target.value.replace(',', '.')));
      }}
      onKeyDown={(event) => {
        const sign = event.key === 'ArrowUp' ? 1 : event.key === 'ArrowDown' ? -1 : 0;
        if (sign === 0) return;
        event.preventDefault();
        const next = Math.min(field.max, Math.max(field.min, value + sign * field.step));
        setTyped(null);
        onChange(Number(next.toFixed(6)));
      }}
      onBlur={() => setTyped(null)}
    />
  );
}

const isNumber = (text: string): boolean => /^-?\d+([.,]\d+)?$/.test(text.trim());
