// The main inputs, set in a sentence as one would say them.
import type { Field } from '@/core/ladders/types';
import { FieldInput } from './FieldInput';

type Props = {
  sentence: string;
  fields: Record<string, Field>;
  spec: Record<string, number>;
  wrong: ReadonlySet<string>;
  onChange: (key: string, value: number) => void;
};

export function Sentence({ sentence, fields, spec, wrong, onChange }: Props) {
  const parts = sentence.split(/\{([A-Za-z]+)\}/);
  return (
    <div className="text-xl leading-[1.75] lg:text-2xl lg:leading-[1.75]">
      {parts.map((part, i) =>
        i % 2 === 0 ? (
          part
        ) : (
          <FieldInput
            key={part}
            name={part}
            field={fields[part]!}
            value={spec[part]!}
            wrong={wrong.has(part)}
            onChange={(value) => onChange(part, value)}
          />
        ),
      )}
    </div>
  );
}
