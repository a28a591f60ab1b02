'use client';
// The emergency stop: always in sight, and on a key.
import { useEffect, useState } from 'react';
import type { Problem } from '@/core/result';
import { attempt, type Outcome } from '../common/attempt';
import { Problems } from '../common/Problems';

export function StopEverything({ stop }: { stop: () => Promise<Outcome> }) {
  const [problems, setProblems] = useState<Problem[]>([]);
  const [stopping, setStopping] = useState(false);
  const press = async () => {
    setStopping(true);
    const outcome = await attempt(stop);
    setStopping(false);
    setProblems(outcome.ok ? [] : outcome.problems);
  };
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== 'Escape' || event.repeat) return;
      event.preventDefault();
      void press();
    };
    document.addEventListener('keydown', onKey);
    return () => document.removeEventListener('keydown', onKey);
  });
  return (
    // On a phone it stays in sight whatever is looked at.
    <div className="bg-base-100 max-lg:border-base-300 lg:mt-1 max-lg:fixed max-lg:inset-x-0 max-lg:bottom-0 max-lg:z-10 max-lg:mt-0 max-lg:border-t max-lg:p-3">
      <button
        type="button"
        className="btn border-base-content text-base-content h-12 w-full border-2 bg-transparent text-base font-semibold shadow-none"
        onClick={() => void press()}
      >
        {stopping ? 'Stopping …' : 'Stop everything · Esc'}
      </button>
      <Problems problems={problems} />
    </div>
  );
}
