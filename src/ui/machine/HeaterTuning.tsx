'use client';
// The machine's own tuning of its nozzle heater: old numbers and new ones beside each other.
import { useState } from 'react';
import type { Gains } from '@/core/bench/gains';
import type { Tuning } from '@/core/link-state';
import { short } from '@/core/numbers';
import { ActButton, type Outcome } from '../common/ActButton';
import { NumberBox } from '../common/NumberBox';

type Props = {
  tuning: Tuning | null;
  /** Temperature at which this bench prints, °C. */
  usual: number;
  stores: boolean;
  acts: {
    tune: (celsius: number) => Promise<Outcome>;
    applyTuning: () => Promise<Outcome>;
    store: () => Promise<Outcome>;
  };
};

export function HeaterTuning({ tuning, usual, stores, acts }: Props) {
  const [celsius, setCelsius] = useState(usual);
  const running = tuning?.state === 'running';
  return (
    <details className="rule-above" open={tuning !== null}>
      <summary className="min-h-11 cursor-pointer leading-[2.75rem]">Tune the heater</summary>
      <p className="soft mb-3">
        The machine heats its nozzle, lets it swing about a temperature for some minutes, and finds
        the numbers that hold it steady. Do it with the fan as it prints, and nothing on the bed.
      </p>
      {running ? (
        <p role="status" className="text-lg">
          Tuning at {short(tuning.celsius)} °C …
        </p>
      ) : (
        <div className="flex flex-wrap items-end gap-3">
          <label>
            <span className="soft mb-1 block">At, °C</span>
            <NumberBox
              label="Tune at, °C"
              className="input w-24"
              value={celsius}
              onChange={setCelsius}
            />
          </label>
          <ActButton className="btn-quiet" needs="start" act={() => acts.tune(celsius)}>
            {tuning?.found ? 'Tune again' : 'Tune it'}
          </ActButton>
        </div>
      )}
      {tuning?.state === 'failed' && (
        <p role="status" className="border-warning mt-3 border-l-4 pl-3">
          {tuning.why}
        </p>
      )}
      {tuning?.found && (
        <div role="status" className="mt-3">
          <p className="text-lg">
            <b>{said(tuning.found)}</b>
            {tuning.before && <span className="soft"> instead of {said(tuning.before)}</span>}
          </p>
          <div className="mt-2 flex flex-wrap gap-2">
            {tuning.state === 'applied' ? (
              <>
                <span className="self-center">In force: the machine says so.</span>
                {stores && (
                  <ActButton className="btn-quiet" needs="start" act={acts.store}>
                    Store it
                  </ActButton>
                )}
              </>
            ) : (
              <ActButton className="btn-main" needs="start" act={acts.applyTuning}>
                Apply the new numbers
              </ActButton>
            )}
          </div>
        </div>
      )}
    </details>
  );
}

const said = ({ p, i, d }: Gains): string =>
  `P ${short(p, 2)} · I ${short(i, 2)} · D ${short(d, 2)}`;
