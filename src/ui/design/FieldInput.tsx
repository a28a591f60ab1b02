// One input of a ladder: a number, or one of several words.
import type { Field } from '@/core/ladders/types';
import { NumberInput } from './NumberInput';

type Props = {
  name: string;
  field: Field;
  value: number;
  wrong: boolean;
  onChange: (value: number) => void;
};

export function FieldInput(props: Props) {
  const { name, field, value, wrong, onChange } = props;
  if (!field.choices) return <NumberInput {...props} className="input-in-text" />;
  return (
    <select
      name={name}
      aria-label={field.label}
      aria-invalid={wrong}
      className="input-in-text max-w-full"
      value={value}
      onChange={({ target }) => onChange(Number(target.value))}
    >
      {field.choices.map((words, i) => (
        <option key={words} value={i}>
          {words}
        </option>
      ))}
    </select>
  );
}
