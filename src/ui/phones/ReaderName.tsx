'use client';
// Asked once: whose the scores at this computer are, so that two people's scores stay apart.
import { useState } from 'react';
import type { Problem } from '@/core/result';
import { attempt, type Outcome } from '../common/attempt';
import { Problems } from '../common/Problems';

const LONGEST = 40;

export function ReaderName({ save }: { save: (name: string) => Promise<Outcome> }) {
  const [name, setName] = useState('');
  const [problems, setProblems] = useState<Problem[]>([]);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void attempt(() => save(name)).then((outcome) =>
          setProblems(outcome.ok ? [] : outcome.problems),
        );
      }}
    >
      <label>
        <span className="mb-1 block">
          Who scores at this computer? It keeps two people’s scores apart, and is asked once.
        </span>
        <span className="flex gap-2">
          <input
            className="input"
            value={name}
            required
            maxLength={LONGEST}
            autoComplete="given-name"
            onChange={({ target }) => setName(target.value)}
          />
          <button type="submit" className="btn-main">
            Save name
          </button>
        </span>
      </label>
      <Problems problems={problems} />
    </form>
  );
}
