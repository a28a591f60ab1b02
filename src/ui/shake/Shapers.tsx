'use client';
// Every shaper at its best frequency, to choose another than the one that is proposed.
import { SHAPER_TITLES, type Shaper } from '@/core/dialect/shapers';
import { short } from '@/core/numbers';
import type { Option } from '@/core/shake/propose';
import { safely } from './told';

type Props = {
  shapers: readonly Option[];
  chosen: Shaper | null;
  proposed: Shaper | null;
  onChoose: (type: Shaper) => void;
};

export function Shapers({ shapers, chosen, proposed, onChoose }: Props) {
  return (
    <fieldset>
      <legend className="sr-only">Shaper</legend>
      {shapers.map(({ type, hz, acceleration, echo, rounding, moved }) => (
        <label
          key={type}
          className={`border-base-300 grid min-h-11 cursor-pointer grid-cols-[1.75rem_minmax(0,1fr)_auto] items-center gap-x-3 border-b px-2 py-1.5 ${
            chosen === type ? 'bg-accent text-accent-content' : ''
          }`}
        >
          <input
            type="radio"
            name="shaper"
            className="radio"
            checked={chosen === type}
            onChange={() => onChoose(type)}
          />
          <span>
            <b>
              {type} at {short(hz, 1)} Hz
            </b>
            {proposed === type && ' · proposed'}
            <span className="block text-sm">{SHAPER_TITLES[type]}</span>
          </span>
          <span className="text-right text-sm tabular-nums">
            <b className="text-base">{safely(acceleration)} mm/s²</b>
            <span className="block">
              ghost {short(echo, 3)}, cut {short(rounding, 2)} mm
            </span>
            <span className="block">{safely(moved)} if a tenth off</span>
          </span>
        </label>
      ))}
    </fieldset>
  );
}
