// One criterion over all rungs, stacked as the tower stands: comparing neighbours is the quickest reading.
import { CRITERIA } from '@/core/criteria';
import { short } from '@/core/numbers';
import { css, inkOn, scaleColour, shareOf } from '@/core/view/scale';
import type { Focus } from './types';
import { Hint } from './hints';
import { ScoreRow } from './ScoreRow';
import { cell } from './useReading';

export function ByCriterion({ place, rungs, criteria, unit, setting, state, score, go }: Focus) {
  const { name, where } = criteria[place.criterion]!;
  const values = rungs.map(({ set }) => set[setting]!);
  return (
    <>
      <p className="soft mt-2">Look {where}.</p>
      <div className="my-1 grid grid-cols-2 gap-3">
        {(['poor', 'clean'] as const).map((side) => (
          <p key={side} className="soft flex items-center gap-2 text-[13px] leading-tight">
            <Hint criterion={name} side={side} />
            <span>
              <b>{side}</b>: {CRITERIA[name][side]}
            </span>
          </p>
        ))}
      </div>
      <ol className="flex flex-1 flex-col-reverse gap-1" aria-label={`${name}, rung by rung`}>
        {rungs.map(({ index, set }) => {
          const share = shareOf(set[setting]!, values);
          return (
            <li
              key={index}
              className={`grid max-h-14 min-h-9 flex-1 grid-cols-[4.5rem_1fr] gap-2 rounded ${index === place.rung ? 'bg-accent/60' : ''}`}
              onPointerDown={() => go({ rung: index })}
            >
              <span
                className="flex items-center justify-center rounded font-semibold"
                style={{ background: css(scaleColour(share)), color: inkOn(share) }}
              >
                {short(set[setting]!)}
              </span>
              <ScoreRow
                compact
                label={`${name} at ${short(set[setting]!)} ${unit}`}
                value={state[cell(index, name)]}
                onScore={(value) => score(index, place.criterion, value)}
              />
            </li>
          );
        })}
      </ol>
    </>
  );
}
