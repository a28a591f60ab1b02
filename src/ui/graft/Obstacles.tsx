'use client';
// What the file does itself inside of the tested part, kind by kind, and what is done about it.
import { mendOf, TITLES, type Found } from '@/core/graft/obstacles';
import type { Mend, Obstacle } from '@/core/graft/recipe';
import { short } from '@/core/numbers';

const WORDS: Record<Mend, string> = {
  lift: 'lift out',
  leave: 'leave',
  hold: 'hold one value',
};

type Props = {
  found: readonly Found[];
  mends: Partial<Record<Obstacle, Mend>>;
  onMend: (kind: Obstacle, mend: Mend) => void;
};

export function Obstacles({ found, mends, onMend }: Props) {
  return (
    <section className="rule-above" aria-label="In the way of this test">
      <h2>In the way of this test</h2>
      {found.length === 0 ? (
        <p>Nothing: the file changes none of it between its first and last section.</p>
      ) : (
        <ul className="divide-base-300 divide-y">
          {found.map(({ kind, lines, values, climbs, what, mends: offered }) => (
            <li key={kind} className="flex flex-wrap items-center gap-x-4 gap-y-1 py-2">
              <span className="min-w-0 flex-1 basis-48">
                <span className="block font-medium">{TITLES[kind]}</span>
                <span className="soft block">
                  {what}
                  {values.length > 0 &&
                    ` Set to ${values.map((value) => short(value, 2)).join(', ')}.`}
                  {` First in line ${lines[0]}.`}
                </span>
              </span>
              <select
                className="select select-sm w-auto"
                aria-label={`What to do about: ${TITLES[kind]}`}
                value={mendOf({ kind, climbs }, mends)}
                onChange={({ target }) => onMend(kind, target.value as Mend)}
              >
                {offered.map((mend) => (
                  <option key={mend} value={mend}>
                    {WORDS[mend]}
                  </option>
                ))}
              </select>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
