'use client';
// Heating by hand, and letting go of it.
import { useState } from 'react';
import { ActButton, type Outcome } from '../common/ActButton';
import { attempt } from '../common/attempt';
import { NumberBox } from '../common/NumberBox';

type Props = {
  usual: { nozzle: number; bed: number };
  hot: boolean;
  /** Seconds until idle heaters go off. */
  coolsInS: number | null;
  /** Minutes that it may be hot and idle. */
  idleMin: number;
  idleAfter: (minutes: number) => Promise<Outcome>;
  heat: (nozzle: number | null, bed: number | null) => Promise<Outcome>;
};

export function HeatForm({ usual, hot, coolsInS, idleMin, heat, idleAfter }: Props) {
  const [to, setTo] = useState(usual);
  return (
    <div className="mt-2 flex flex-wrap items-center gap-x-4">
      {hot ? (
        <ActButton className="btn-quiet" act={() => heat(0, 0)}>
          Heaters off
        </ActButton>
      ) : (
        <details>
          <summary className="btn-quiet">Heat …</summary>
          <div className="mt-3 flex flex-wrap items-end gap-3">
            <label>
              <span className="soft mb-1 block">Nozzle, °C</span>
              <NumberBox
                label="Nozzle, °C"
                className="input w-20"
                value={to.nozzle}
                onChange={(nozzle) => setTo({ ...to, nozzle })}
              />
            </label>
            <label>
              <span className="soft mb-1 block">Bed, °C</span>
              <NumberBox
                label="Bed, °C"
                className="input w-20"
                value={to.bed}
                onChange={(bed) => setTo({ ...to, bed })}
              />
            </label>
            <ActButton className="btn-main" needs="start" act={() => heat(to.nozzle, to.bed)}>
              Heat
            </ActButton>
          </div>
        </details>
      )}
      {coolsInS !== null && (
        <p>Left alone, its heaters go off in {Math.max(1, Math.ceil(coolsInS / 60))} min.</p>
      )}
      <label className="soft flex flex-wrap items-center gap-x-2">
        Idle heaters go off after
        <select
          className="select select-sm w-auto"
          aria-label="Idle heaters go off after, minutes"
          value={idleMin}
          onChange={({ target }) => void attempt(() => idleAfter(Number(target.value)))}
        >
          {[...new Set([5, 10, 20, 45, idleMin])]
            .sort((a, b) => a - b)
            .map((minutes) => (
              <option key={minutes} value={minutes}>
                {minutes} min
              </option>
            ))}
        </select>
      </label>
    </div>
  );
}
