// Where those who scored the same print disagree: worth a look together, with the print in hand.
import { SCORE_WORDS } from '@/core/reading/types';
import type { Difference } from '@/core/reading/differences';

export type Differing = Difference & {
  /** Name of the rung. */
  at: string;
};

/** Most that are shown at first. */
const FIRST = 5;

export function Differences({ all }: { all: readonly Differing[] }) {
  if (all.length === 0) return null;
  return (
    <section className="rule-above" aria-label="Where readers differ">
      <h2>Where readers differ</h2>
      <List all={all.slice(0, FIRST)} />
      {all.length > FIRST && (
        <details>
          <summary className="min-h-11 cursor-pointer leading-[2.75rem]">
            {all.length - FIRST} more
          </summary>
          <List all={all.slice(FIRST)} />
        </details>
      )}
      <p className="soft mt-2">Look at these together; all scores count alike until then.</p>
    </section>
  );
}

function List({ all }: { all: readonly Differing[] }) {
  return (
    <ul className="space-y-1.5">
      {all.map(({ at, criterion, said }, i) => (
        <li key={i}>
          <b>
            {criterion} at {at}
          </b>
          :{' '}
          {said.map(({ reader, score }, j) => (
            <span key={j}>
              {j > 0 && ', '}
              <bdi>{reader}</bdi> {score} {SCORE_WORDS[score]}
            </span>
          ))}
        </li>
      ))}
    </ul>
  );
}
