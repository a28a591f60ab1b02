'use client';
// Extruder steps without a file: heat, mark, feed, measure what is left, again, then into the machine.
import { useState } from 'react';
import { meltsAt, tooCold } from '@/core/bench/feeding';
import { settingInfo } from '@/core/bench/settings';
import { workedSteps } from '@/core/ladders/extruder-steps/kind';
import type { Feeding, Heat } from '@/core/link-state';
import { short } from '@/core/numbers';
import type { Result } from '@/core/result';
import { FeedDrawing } from '../common/FeedDrawing';
import { ActButton, type Outcome } from '../common/ActButton';
import { duration } from '../common/format';
import { NumberBox } from '../common/NumberBox';
import { Problems } from '../common/Problems';

/** How a length is fed: mm, how far above the extruder the mark is set, and mm/s. */
export type Slowly = { length: number; mark: number; speed: number };
export type StepsActs = {
  heat: (nozzle: number | null, bed: number | null) => Promise<Outcome>;
  feed: () => Promise<Outcome>;
  /** What a ruler says beside a simulated machine, mm. */
  ruler: () => Promise<Result<number>>;
  keepSteps: (measured: {
    setting: 'steps' | 'rotation';
    present: number;
    left: readonly number[];
  }) => Promise<Outcome>;
};

type Props = {
  present: { setting: 'steps' | 'rotation'; value: number };
  nozzle: Heat | undefined;
  usual: number;
  slowly: Slowly;
  /** °C at which its material is still extruded. */
  coldest: number;
  feeding: Feeding | null;
  simulated: boolean;
  stores: boolean;
  acts: StepsActs;
};

type Measured = { n: number; left: number };

export function ExtruderSteps(props: Props) {
  const { present, nozzle, usual, slowly, feeding, acts } = props;
  const { title, unit, decimals } = settingInfo(present.setting);
  const [measured, setMeasured] = useState<Measured[]>([]);
  const [typed, setTyped] = useState<number | null>(null);
  const cold = tooCold(nozzle, props.coldest);
  const heating = meltsAt(nozzle, props.coldest);
  const running = feeding?.state === 'running';
  // What was fed last and is not measured yet.
  const open =
    feeding?.state === 'done' && !measured.some(({ n }) => n === feeding.n) ? feeding.n : null;
  const left = measured.map((one) => one.left);
  const worked =
    left.length > 0
      ? workedSteps(present.setting, { present: present.value, ...slowly }, left)
      : null;
  const [found] = worked?.ok ? worked.value.values : [];
  const enter = (n: number, value: number) => {
    setMeasured([...measured, { n, left: value }]);
    setTyped(null);
  };
  return (
    <details className="rule-above" open={feeding !== null || undefined}>
      <summary className="min-h-11 cursor-pointer py-2">
        Measure the {title} ({short(present.value)} {unit} now)
      </summary>
      <div className="flex flex-wrap items-start gap-x-10 gap-y-4">
        <ol className="grid max-w-2xl min-w-72 flex-1 gap-3">
          <Step at={1} done={!cold}>
            {!cold ? (
              <p>The nozzle is at {Math.round(nozzle!.now)} °C: ready.</p>
            ) : heating ? (
              <p role="status">
                {Math.round(nozzle!.now)} °C on its way to {Math.round(nozzle!.target)} °C …
              </p>
            ) : (
              <ActButton className="btn-quiet" needs="start" act={() => acts.heat(usual, null)}>
                Heat the nozzle to {usual} °C
              </ActButton>
            )}
          </Step>
          <Step at={2} done={running || open !== null}>
            <p className="mb-2">
              Mark the filament {short(slowly.mark)} mm above where it goes into the extruder. Then{' '}
              {short(slowly.length)} mm are fed, slowly.
            </p>
            {running ? (
              <p role="status" className="text-lg">
                Feeding, {duration(slowly.length / slowly.speed)} in all …
              </p>
            ) : (
              <ActButton
                className={open === null && !cold && !found ? 'btn-main' : 'btn-quiet'}
                needs="start"
                act={acts.feed}
              >
                {measured.length === 0
                  ? `Feed ${short(slowly.length)} mm`
                  : `Feed ${short(slowly.length)} mm again`}
              </ActButton>
            )}
            {feeding?.state === 'failed' && <p className="mt-2">{feeding.why}</p>}
          </Step>
          <Step at={3} done={measured.length > 0 && open === null}>
            <p>Measure from the extruder to the mark, two or three times with a fresh mark.</p>
            {open !== null && (
              <form
                className="mt-2 flex flex-wrap items-end gap-3"
                onSubmit={(event) => {
                  event.preventDefault();
                  if (typed !== null) enter(open, typed);
                }}
              >
                <label>
                  <span className="soft mb-1 block">Distance left to the mark, mm</span>
                  <NumberBox
                    label="Distance left to the mark, mm"
                    className="input w-24"
                    value={typed}
                    min={-50}
                    max={300}
                    onChange={setTyped}
                    onEmpty={() => setTyped(null)}
                  />
                </label>
                <button className="btn-main" aria-disabled={typed === null}>
                  Enter
                </button>
                {props.simulated && (
                  <ActButton
                    className="btn-quiet"
                    act={async () => {
                      const read = await acts.ruler();
                      if (read.ok) enter(open, read.value);
                      return read;
                    }}
                  >
                    Read the simulated ruler
                  </ActButton>
                )}
              </form>
            )}
            {measured.length > 0 && (
              <ul className="mt-2">
                {measured.map(({ n, left: mm }) => (
                  <li key={n} className="flex items-center gap-3">
                    {short(mm, 1)} mm left: {short(slowly.mark - mm, 1)} mm came
                    <button
                      type="button"
                      className="btn btn-ghost btn-sm font-normal"
                      onClick={() => setMeasured(measured.filter((one) => one.n !== n))}
                    >
                      Remove
                    </button>
                  </li>
                ))}
              </ul>
            )}
          </Step>
        </ol>
        <FeedDrawing {...slowly} className="max-w-full [--room:100%] [--tall:22rem]" />
      </div>
      {worked && !worked.ok && <Problems problems={worked.problems} />}
      {found && (
        <div className="mt-4">
          <p className="text-3xl font-semibold">
            {short(found.value, decimals)} <span className="text-base font-normal">{unit}</span>
          </p>
          <p className="soft mb-2">
            Between {short(found.range[0], decimals)} and {short(found.range[1], decimals)} in 8 of
            10 such cases.
            {left.length < 3 && ' Once more makes it surer.'}
          </p>
          <ActButton
            className="btn-main"
            needs="start"
            working="Putting it in …"
            act={async () => {
              const { setting, value } = present;
              const done = await acts.keepSteps({ setting, present: value, left });
              if (done.ok) setMeasured([]);
              return done;
            }}
          >
            {props.stores ? 'Save it, apply, prove, store' : 'Save it to the ledger'}
          </ActButton>
        </div>
      )}
    </details>
  );
}

function Step({ at, done, children }: { at: number; done: boolean; children: React.ReactNode }) {
  return (
    <li className="grid grid-cols-[2rem_minmax(0,1fr)]">
      <b className={done ? 'text-neutral' : 'text-primary'}>{done ? '✓' : at}</b>
      <div>{children}</div>
    </li>
  );
}
