'use client';
// What was put into the machine and when, and the way back.
import { ActButton, type Outcome } from '../common/ActButton';
import { ago } from '../common/format';

export type PutRow = {
  id: number;
  title: string;
  /** The value with its unit, or the word of a choice; what was there before it. */
  said: string;
  before: string | null;
  stored: boolean;
  simulated: boolean;
  at: string;
  takenBack: boolean;
};

type Props = {
  rows: readonly PutRow[];
  nowMs: number;
  /** Whether the machine is there to be told. */
  reached: boolean;
  takeBack: (id: number) => Promise<Outcome>;
};

export function PutHistory({ rows, nowMs, reached, takeBack }: Props) {
  if (rows.length === 0) return null;
  return (
    <section className="rule-above" aria-label="Put into the machine">
      <h2>Put into the machine</h2>
      <ul className="divide-base-300 divide-y">
        {rows.map(({ id, title, said, before, stored, simulated, at, takenBack }) => (
          <li key={id} className="flex flex-wrap items-center gap-x-4 py-1.5">
            <span className="flex-1 basis-64">
              <b>{said}</b> of {title}
              {before === null ? '' : `, ${before} before`}
              {stored ? ', stored' : ''}
              {simulated ? ', simulated' : ''}
              {takenBack ? ', taken back' : ''}
            </span>
            <span className="soft">{ago(at, nowMs)}</span>
            {reached && !takenBack && before !== null && (
              <ActButton
                className="btn btn-ghost btn-sm font-normal"
                needs="start"
                label={`Take back ${said} of ${title}`}
                act={() => takeBack(id)}
              >
                Take back
              </ActButton>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
