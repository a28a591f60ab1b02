// For a thumb: six large keys that stay where they are while cell after cell comes to them.
import { CHOICES } from './ScoreRow';
import type { Focus } from './types';
import { cell } from './useReading';

export function ScorePad({ place, rungs, criteria, state, score }: Focus) {
  const { name } = criteria[place.criterion]!;
  const label = `${name} at ${rungs[place.rung]!.name}`;
  const given = place.over ? undefined : state[cell(place.rung, name)];
  return (
    <div className="mb-2 lg:hidden" role="group" aria-label={label}>
      <p aria-live="polite" className={place.over ? 'sr-only' : 'mb-1 leading-tight'}>
        {place.over ? (
          ''
        ) : (
          <>
            <b className="text-primary">{name}</b>{' '}
            <span className="soft">at {rungs[place.rung]!.name}</span>
          </>
        )}
      </p>
      <div className="grid grid-cols-6 gap-1.5">
        {CHOICES.map(({ score: value, mark, word }) => (
          <button
            key={mark}
            type="button"
            // After the last cell a tap too many is not to overwrite it.
            disabled={place.over}
            aria-label={value === null ? 'can’t tell' : `${mark} ${word}`}
            aria-pressed={given === value}
            className="border-secondary aria-pressed:border-primary aria-pressed:bg-primary aria-pressed:text-primary-content flex h-16 touch-manipulation flex-col items-center justify-center rounded border-2 select-none active:outline-3 disabled:opacity-40"
            onClick={() => score(place.rung, place.criterion, value)}
          >
            <span className="text-2xl leading-none font-semibold">{mark}</span>
            <span className="text-[13px] leading-tight max-[340px]:hidden">{word}</span>
          </button>
        ))}
      </div>
    </div>
  );
}
