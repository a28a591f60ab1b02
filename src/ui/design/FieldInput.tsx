// One input of a ladder: a number, or one of several words.
import type { Field } from '@/core/ladders/types';
import { NumberBox } from '../common/NumberBox';

type Props = {
  name: string;
  field: Field;
  value: number;
  wrong: boolean;
  onChange: (value: number) => void;
};

export function FieldInput({ name, field, value, wrong, onChange }: Props) {
  const { label, unit, min, max, step, choices } = field;
  if (!choices)
    return (
      <NumberBox
        name={name}
        label={label}
        unit={unit}
        value={value}
        min={min}
        max={max}
        step={step}
        wrong={wrong}
        grows
        className="input-in-text"
        onChange={onChange}
      />
    );
  return (
    <select
      name={name}
      aria-label={label}
      aria-invalid={wrong}
      className="input-in-text max-w-full"
      value={value}
      onChange={({ target }) => onChange(Number(target.value))}
    >
      {choices.map((words, i) => (
        <option key={words} value={i}>
          {words}
        </option>
      ))}
    </select>
  );
}
