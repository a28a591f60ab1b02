'use client';
// How much each criterion counts; the finding answers when a slider is let go.
import { useState, useTransition } from 'react';
import type { Criterion } from '@/core/criteria';
import type { Problem } from '@/core/result';
import { attempt, type Outcome } from '../common/attempt';
import { Problems } from '../common/Problems';

export type FoundCriterion = { name: Criterion; weight: number; means: (number | null)[] };
type Weighed = Pick<FoundCriterion, 'name' | 'weight'>;

type Props = {
  criteria: readonly Weighed[];
  turn: (weights: Record<string, number>) => Promise<Outcome>;
  /** Weights by what the prints are for. */
  goals: { title: string; weights: Record<string, number> }[];
};

export function Weights({ criteria, turn, goals }: Props) {
  const [weights, setWeights] = useState(() =>
    Object.fromEntries(criteria.map(({ name, weight }) => [name as string, weight])),
  );
  const [busy, start] = useTransition();
  const [problems, setProblems] = useState<Problem[]>([]);
  const turnTo = (wanted: Record<string, number>) =>
    start(async () => {
      const outcome = await attempt(() => turn(wanted));
      setProblems(outcome.ok ? [] : outcome.problems);
    });
  const keep = () => turnTo(weights);
  return (
    <section className="rule-above" aria-busy={busy}>
      <h2>What counts</h2>
      {goals.length > 0 && (
        <div className="join mb-2" role="group" aria-label="What the prints are for">
          {goals.map((goal) => (
            <button
              key={goal.title}
              type="button"
              aria-pressed={criteria.every(({ name }) => goal.weights[name] === weights[name])}
              className="btn btn-sm join-item aria-pressed:btn-chosen font-normal"
              onClick={() => {
                setWeights(goal.weights);
                turnTo(goal.weights);
              }}
            >
              {goal.title}
            </button>
          ))}
        </div>
      )}
      {criteria.map(({ name }) => (
        <label key={name} className="flex min-h-8 items-center gap-3">
          <span className="w-20 text-sm">{name}</span>
          <input
            type="range"
            min={0}
            max={1}
            step={0.1}
            className="range range-xs text-base-content flex-1"
            value={weights[name]}
            aria-label={`Weight of ${name}`}
            onChange={({ target }) => setWeights({ ...weights, [name]: Number(target.value) })}
            onPointerUp={keep}
            onKeyUp={(event) => event.key !== 'Tab' && keep()}
          />
          <span className="soft w-8 text-right">{Math.round(weights[name]! * 10)}</span>
        </label>
      ))}
      <Problems problems={problems} />
    </section>
  );
}
