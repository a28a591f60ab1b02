'use client';
// "Is it in the machine now?": asked where the lines are shown that bring it there.
import { useOptimistic, useState, useTransition } from 'react';
import type { Problem } from '@/core/result';
import { attempt, type Outcome } from '../common/attempt';
import { Problems } from '../common/Problems';

type Props = {
  carried: boolean;
  carry: (carried: boolean) => Promise<Outcome>;
};

export function InMachine({ carried, carry }: Props) {
  const [problems, setProblems] = useState<Problem[]>([]);
  const [, start] = useTransition();
  const [shown, setShown] = useOptimistic(carried);
  return (
    <>
      <label className="flex min-h-9 cursor-pointer items-center gap-3">
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          checked={shown}
          onChange={({ target }) =>
            start(async () => {
              setShown(target.checked);
              const outcome = await attempt(() => carry(target.checked));
              setProblems(outcome.ok ? [] : outcome.problems);
            })
          }
        />
        It is in the machine now
      </label>
      <Problems problems={problems} />
    </>
  );
}
