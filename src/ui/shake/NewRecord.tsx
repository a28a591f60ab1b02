'use client';
// From the file that shakes to the record that is dropped: what to do, in order, and the simulated machine beside it.
import { useRouter } from 'next/navigation';
import { useId, useState } from 'react';
import type { Bench } from '@/core/bench/bench';
import type { AxisName } from '@/core/bench/shaper';
import { UNITS, type Unit } from '@/core/shake/record';
import { BEFOREHAND, faultsIn, notesOn, usualShake } from '@/core/shake/asked';
import type { Answer, Problem } from '@/core/result';
import { ActButton } from '../common/ActButton';
import { attempt } from '../common/attempt';
import { NumberBox } from '../common/NumberBox';
import { Problems } from '../common/Problems';
import { useDrop } from '../inspect/useDrop';
import { OnWire } from './OnWire';
import type { ShakeActs, ShakePage } from './types';
import { useRecord } from './useRecord';

type Props = Pick<ShakePage, 'benchId' | 'bench' | 'axis' | 'ready' | 'faults' | 'wire'> & {
  acts: ShakeActs;
};

function numbersOf(bench: Bench, axis: AxisName): Numbers {
  const { from, to, acceleration, seconds, fan } = usualShake(bench, axis);
  return { from, to, acceleration, seconds, fan };
}

type Numbers = Record<'from' | 'to' | 'acceleration' | 'seconds' | 'fan', number>;

export function NewRecord({ benchId, bench, axis, ready, faults, wire, acts }: Props) {
  const router = useRouter();
  const [along, setAlong] = useState<'axis' | 'diagonals'>('axis');
  const [numbers, setNumbers] = useState<Numbers>(() => numbersOf(bench, axis));
  const [seed, setSeed] = useState(String(ready[0]!.seed));
  const [fault, setFault] = useState('none');
  const shaken = along === 'axis' ? axis : 'diagonals';
  const asked = { axis: shaken, ...numbers } as const;
  const whole = { ...usualShake(bench, shaken), ...asked };
  const wrong = faultsIn(whole, bench);
  const said = wrong.length > 0 ? BEFOREHAND : [...BEFOREHAND, ...notesOn(whole, bench)];
  const query = new URLSearchParams({
    axis: shaken,
    ...Object.fromEntries(Object.entries(numbers).map(([key, value]) => [key, String(value)])),
  });
  const href = `/bench/${benchId}/shake/file?${query.toString()}`;
  const { reading, read, check, again, stop } = useRecord(axis, href, async (name, found) => {
    const kept = await attempt(() => acts.keep(shaken, name, found));
    if (!kept.ok) return kept.problems;
    router.push(`/bench/${benchId}/shake?axis=${axis}&record=${kept.value}`);
    router.refresh();
    return [];
  });
  const over = useDrop((file) => void read(file));
  const go = async (act: () => Promise<Answer<number>>): Promise<Answer> => {
    const made = await act();
    if (!made.ok) return made;
    router.push(`/bench/${benchId}/shake?axis=${axis}&record=${made.value}`);
    router.refresh();
    return { ok: true, value: null };
  };
  const set = (key: keyof Numbers) => (value: number) => setNumbers({ ...numbers, [key]: value });
  return (
    <section className="rule-above" aria-label="New record">
      <h2>New record of {axis}</h2>
      <ol className="list-decimal space-y-4 pl-5">
        <li>
          <p>
            Print this file: it shakes {shaken === 'diagonals' ? 'along both diagonals' : axis},
            cold and lifted.
          </p>
          <p className="my-2">
            {wrong.length === 0 && (
              <a className="btn-quiet" href={href} download>
                Shake file
              </a>
            )}
          </p>
          <details className="max-w-md">
            <summary className="soft cursor-pointer py-1">Band, strength, length</summary>
            <div className="mt-2 grid grid-cols-[1fr_auto] items-center gap-x-4 gap-y-2">
              <Row label="From" unit="Hz" value={numbers.from} onChange={set('from')} />
              <Row label="To" unit="Hz" value={numbers.to} onChange={set('to')} />
              <Row
                label="Strength"
                unit="mm/s²"
                value={numbers.acceleration}
                onChange={set('acceleration')}
              />
              <Row label="Length" unit="s" value={numbers.seconds} onChange={set('seconds')} />
              <Row
                label="Fan"
                unit="%"
                value={Math.round(100 * numbers.fan)}
                onChange={(percent) => set('fan')(percent / 100)}
              />
              <label htmlFor="along">Along</label>
              <select
                id="along"
                className="select select-sm w-44"
                value={along}
                onChange={({ target }) => setAlong(target.value as 'axis')}
              >
                <option value="axis">{axis} alone</option>
                <option value="diagonals">both diagonals (crossed belts)</option>
              </select>
            </div>
          </details>
          <Problems problems={wrong} />
          <ul className="soft mt-1 list-disc pl-5">
            {said.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </li>
        <li>
          <p>Is the sensor right? Record one second at rest to check the sensor.</p>
          <FileButton label="Check a still record" onFile={(file) => void check(file)} />
        </li>
        <li>
          <p>Drop the record here: CSV or TSV with time, x, y and z, in g, m/s² or mm/s².</p>
          <FileButton label="Choose the record" main onFile={(file) => void read(file)} />
        </li>
      </ol>
      {over && <p className="text-primary mt-2 font-semibold">Let go to read it.</p>}
      <div aria-live="polite">
        {reading.phase === 'reading' && (
          <p className="mt-3 flex items-center gap-3">
            Reading {reading.name} …
            <button type="button" className="btn-quiet btn-sm" onClick={stop}>
              Stop
            </button>
          </p>
        )}
        {reading.phase === 'right' && (
          <p className="mt-3">
            {reading.name}: the sensor is right. All three axes are alive, and it feels gravity.
          </p>
        )}
      </div>
      {reading.phase === 'refused' && (
        <>
          <Problems problems={reading.problems} />
          <Missing problems={reading.problems} again={again} />
        </>
      )}
      <OnWire
        {...wire}
        name={bench.machine.name}
        href={`/bench/${benchId}/shake?axis=${axis}`}
        begin={() => acts.onWire(asked)}
        stopEverything={acts.stopEverything}
      />
      <div className="mt-4 flex flex-wrap items-center gap-2">
        <span className="soft">Without a printer:</span>
        <select
          className="select select-sm w-40"
          aria-label="Simulated machine"
          value={seed}
          onChange={({ target }) => setSeed(target.value)}
        >
          {ready.map((one) => (
            <option key={one.seed} value={one.seed}>
              {one.name}
            </option>
          ))}
        </select>
        <select
          className="select select-sm w-40"
          aria-label="What is wrong with its sensor"
          value={fault}
          onChange={({ target }) => setFault(target.value)}
        >
          {faults.map(({ name, says }) => (
            <option key={name} value={name}>
              {name === 'none' ? 'sensor is right' : says}
            </option>
          ))}
        </select>
        <ActButton
          className="btn-quiet"
          working="Shaking …"
          act={() => go(() => acts.understudy(asked, Number(seed), fault))}
        >
          Shake the understudy
        </ActButton>
      </div>
    </section>
  );
}

function Row({
  label,
  unit,
  value,
  onChange,
}: {
  label: string;
  unit: string;
  value: number;
  onChange: (value: number) => void;
}) {
  return (
    <>
      <span>{label}</span>
      <span className="flex items-center gap-2">
        <NumberBox
          className="input input-sm w-24"
          label={label}
          unit={unit}
          value={value}
          onChange={onChange}
        />
        <span className="soft w-14">{unit}</span>
      </span>
    </>
  );
}

function FileButton({
  label,
  main = false,
  onFile,
}: {
  label: string;
  main?: boolean;
  onFile: (file: File) => void;
}) {
  const id = useId();
  return (
    <p className="my-2">
      <label
        htmlFor={id}
        className={`${main ? 'btn-main' : 'btn-quiet'} cursor-pointer focus-within:outline-3`}
      >
        {label}
        <input
          id={id}
          type="file"
          className="sr-only"
          accept=".csv,.tsv,.txt,text/csv,text/plain"
          onChange={({ target }) => {
            const file = target.files?.[0];
            target.value = '';
            if (file) onFile(file);
          }}
        />
      </label>
    </p>
  );
}

/** What a record did not say itself is asked for. */
function Missing({
  problems,
  again,
}: {
  problems: readonly Problem[];
  again: (given: { rate?: number; unit?: Unit }) => void;
}) {
  const [rate, setRate] = useState(3200);
  if (problems.some(({ where }) => where === 'rate'))
    return (
      <p className="flex items-center gap-2">
        <NumberBox
          className="input input-sm w-28"
          label="Samples a second"
          value={rate}
          onChange={setRate}
        />
        samples a second
        <button type="button" className="btn-quiet btn-sm" onClick={() => again({ rate })}>
          Read it again
        </button>
      </p>
    );
  if (problems.some(({ where }) => where === 'unit'))
    return (
      <p className="flex flex-wrap items-center gap-2">
        It counts in
        {UNITS.map((unit) => (
          <button
            key={unit}
            type="button"
            className="btn-quiet btn-sm"
            onClick={() => again({ unit })}
          >
            {unit}
          </button>
        ))}
      </p>
    );
  return null;
}
