'use client';
// Named commands of the machine's own that files call: what each does is said once, and believed from then on.
import { X } from 'lucide-react';
import type { Macro } from '@/core/bench/machine';

type Props = { macros: Macro[]; onChange: (macros: Macro[]) => void };

const DOES = ['heats', 'homes', 'primes'] as const;

export function MacroRows({ macros, onChange }: Props) {
  const put = (at: number, patch: Partial<Macro>) =>
    onChange(macros.map((one, i) => (i === at ? { ...one, ...patch } : one)));
  return (
    <fieldset>
      <legend className="mb-2 text-xl font-semibold">Commands of its own</legend>
      <p className="soft mb-2">
        Named commands that files call, such as one that starts a print. Say what each does; without
        that, a file check can only say that it does not know them.
      </p>
      <ul className="space-y-2">
        {macros.map((macro, i) => (
          <li key={i} className="flex flex-wrap items-center gap-x-4 gap-y-1">
            <input
              className="input w-56 font-mono text-sm"
              aria-label={`Name of command ${i + 1}`}
              value={macro.name}
              maxLength={60}
              onChange={({ target }) => put(i, { name: target.value.toUpperCase() })}
            />
            {DOES.map((does) => (
              <label key={does} className="flex min-h-8 items-center gap-2">
                <input
                  type="checkbox"
                  className="checkbox checkbox-sm"
                  checked={macro[does]}
                  onChange={({ target }) => put(i, { [does]: target.checked })}
                />
                {does}
              </label>
            ))}
            <button
              type="button"
              className="btn btn-ghost btn-sm btn-square"
              aria-label={`Take out ${macro.name || `command ${i + 1}`}`}
              onClick={() => onChange(macros.filter((_, at) => at !== i))}
            >
              <X size={16} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="btn-quiet btn-sm mt-2"
        onClick={() =>
          onChange([...macros, { name: 'START_PRINT', heats: true, homes: true, primes: true }])
        }
      >
        Add a command
      </button>
    </fieldset>
  );
}
