'use client';
// One's own value instead of the proposal; it is held against what was printed.
import { useRef, useState } from 'react';
import type { Answer } from '@/core/result';
import { ActButton } from '../common/ActButton';
import { NumberBox, wrongProblem } from '../common/NumberBox';

type Props = {
  title: string;
  unit: string;
  /** Whether it has to be said of which setting. */
  named?: boolean;
  put: (value: number) => Promise<Answer<number>>;
};

export function TypedValue({ title, unit, named = false, put }: Props) {
  const [value, setValue] = useState<number | null>(null);
  const box = useRef<HTMLDivElement>(null);
  return (
    <details className="mt-4">
      <summary className="soft min-h-8 cursor-pointer leading-8">
        {named ? `Save a ${title} of your own` : 'Save a value of your own'}
      </summary>
      <div ref={box} className="flex flex-wrap items-center gap-2 pt-1">
        <div className="input w-32">
          <NumberBox
            label={`Your ${title}`}
            unit={unit}
            value={value}
            onChange={setValue}
            onEmpty={() => setValue(null)}
          />
          <span className="soft">{unit}</span>
        </div>
        <ActButton
          act={async () => {
            const wrong = box.current && wrongProblem(box.current);
            if (wrong) return { ok: false, problems: [wrong] };
            if (value === null)
              return {
                ok: false,
                problems: [{ where: title, what: 'Nothing was entered.', mend: 'Enter a value.' }],
              };
            return put(value);
          }}
        >
          Save it
        </ActButton>
      </div>
    </details>
  );
}
