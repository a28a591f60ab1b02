'use client';
// How fast an axis may go before a ghost shows: what rings, the shaper that calms it, and the way to a record.
import Link from 'next/link';
import { useMemo, useState } from 'react';
import type { AxisName } from '@/core/bench/shaper';
import { short } from '@/core/numbers';
import { proposedFor, type Proposed } from '@/core/shake/kept';
import { LIMITS, type Limits } from '@/core/shake/propose';
import { SHAPER_TITLES, type Shaper } from '@/core/dialect/shapers';
import { ActButton } from '../common/ActButton';
import { age, counted } from '../common/format';
import { NumberBox } from '../common/NumberBox';
import { ShakeSketch } from '../common/Sketches';
import { Term } from '../common/Term';
import { SimulatedNote } from '../common/SimulatedNote';
import { Echoes } from './Echoes';
import { NewRecord } from './NewRecord';
import { Shapers } from './Shapers';
import { safely } from './told';
import { SpectrumChart, type Shows } from './SpectrumChart';
import type { ShakeActs, ShakePage, ShakeRow } from './types';

type Props = { page: ShakePage; acts: ShakeActs };

/** What may be asked of the eye, mm. */
const ECHO = { min: 0.001, max: 0.2, step: 0.001 };
const CUT = { min: 0.005, max: 1, step: 0.01 };

/** Ends that are closer than this share are one number. */
const SAME = 0.02;

export function ShakeScreen({ page, acts }: Props) {
  const { axis, shakes, others, chosen, shared, kinds, most } = page;
  const row = shakes.find(({ id }) => id === chosen) ?? shakes[0] ?? null;
  const [limits, setLimits] = useState<Limits>(LIMITS);
  const [type, setType] = useState<Shaper | null>(null);
  const [shows, setShows] = useState<Shows>('power');
  const [besideId, setBeside] = useState<number | null>(null);
  const other = row && others.find((one) => (one.simulated !== null) === (row.simulated !== null));
  const proposed = useMemo(
    () => row && of(shared && other ? [row, other] : [row], limits, most, kinds[axis]),
    [row, other, shared, limits, most, kinds, axis],
  );
  const otherAxis: AxisName = axis === 'x' ? 'y' : 'x';
  const beside = useMemo(
    () => (row && other && !shared ? of([other], limits, most, kinds[otherAxis]) : null),
    [row, other, shared, limits, most, kinds, otherAxis],
  );
  if (!row || !proposed)
    return (
      <main className="grid grid-cols-[minmax(0,1fr)] gap-x-14 gap-y-6 px-4 py-6 lg:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)] lg:px-7">
        <section className="lg:order-last lg:sticky lg:top-4 lg:self-start">
          <h1 className="text-3xl leading-tight font-semibold">
            How hard may {page.bench.machine.name} be driven before a ghost shows?
          </h1>
          <p className="mt-2 mb-6 max-w-2xl">
            An accelerometer on what moves tells at which frequencies {axis} rings. From that follow
            the input shaper that calms it, and the largest acceleration that still prints clean.
            One record for each axis.
          </p>
          <Term of="shaper" says="What an input shaper is" />
          <ShakeSketch />
        </section>
        <div>
          <NewRecord {...page} acts={acts} />
          <Echoes {...page} acts={acts} />
        </div>
      </main>
    );
  const { proposal, shapers, range } = proposed;
  const pick = (type && shapers.find((one) => one.type === type)) || null;
  const shaper = pick ?? shapers.find((one) => one.type === proposal.type) ?? null;
  const acceleration = pick ? Math.min(most, pick.acceleration) : proposal.acceleration;
  const choice = { axis, shake: row.id, limits, type: pick?.type ?? null };
  const compared = [...shakes, ...others].find(({ id }) => id === besideId) ?? null;
  const { response } = row.found;
  const held = page.ledger[row.simulated ? 'simulated' : 'real'];
  return (
    <>
      {row.simulated && <SimulatedNote {...row.simulated} />}
      <main className="grid grid-cols-[minmax(0,1fr)] gap-x-10 gap-y-6 px-4 py-5 lg:grid-cols-[minmax(0,1.5fr)_minmax(21rem,1fr)] lg:px-7">
        <h1 className="sr-only">Shake, {axis} axis</h1>
        <section aria-label="What rings" className="max-lg:order-last">
          <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
            {response && (
              <div className="join" role="group" aria-label="What is shown">
                {(
                  [
                    ['power', 'Power'],
                    ['response', 'Response'],
                  ] as const
                ).map(([value, label]) => (
                  <button
                    key={value}
                    type="button"
                    className={`btn join-item btn-sm font-normal ${shows === value ? 'btn-chosen' : 'btn-ghost'}`}
                    aria-pressed={shows === value}
                    onClick={() => setShows(value)}
                  >
                    {label}
                  </button>
                ))}
              </div>
            )}
            {shakes.length + others.length > 1 && (
              <label className="flex items-center gap-2">
                <span className="soft whitespace-nowrap">Compare with</span>
                <select
                  className="select select-sm max-w-full pr-8"
                  value={besideId ?? ''}
                  onChange={({ target }) => setBeside(Number(target.value) || null)}
                >
                  <option value="">nothing</option>
                  {[...shakes, ...others]
                    .filter(({ id, found }) => id !== row.id && found.spectrum)
                    .map((one) => (
                      <option key={one.id} value={one.id}>
                        {titleOf(one, page.nowMs)}
                      </option>
                    ))}
                </select>
              </label>
            )}
          </div>
          {row.found.spectrum ? (
            <SpectrumChart
              found={row.found}
              beside={compared && { name: titleOf(compared, page.nowMs), found: compared.found }}
              shows={response ? shows : 'power'}
              shaper={shaper?.hz ?? null}
            />
          ) : (
            <p className="my-6 text-3xl font-semibold">
              {short(row.found.peaks[0]!.hz, 1)} Hz{' '}
              <span className="soft text-base font-normal">from {row.name}</span>
            </p>
          )}
          {compared && <p className="mb-2 text-lg">{compare(row, compared)}</p>}
          <Peaks row={row} compared={compared} nowMs={page.nowMs} />
        </section>
        <section aria-label="What follows">
          <h2>Highest acceleration without visible ringing</h2>
          <p className="text-6xl leading-none font-semibold tabular-nums" data-testid="fastest">
            {safely(acceleration)} <span className="text-neutral text-2xl font-normal">mm/s²</span>
          </p>
          <p className="mt-3 text-lg">
            {says(proposal.answer, shaper, proposal.plain, most)}{' '}
            {proposal.answer === 'mend' ? proposal.why : ''}
          </p>
          {shaper && shaper.acceleration > most && acceleration === most && (
            <p className="mt-1">
              The machine takes no more than {safely(most)} mm/s² along {axis}, as its limits say;
              the shaper alone would bear {safely(shaper.acceleration)}.
            </p>
          )}
          {range && !pick && range[1] - range[0] > SAME * range[1] && (
            <p className="soft mt-1">
              8 of 10 such records say {safely(range[0])} to {safely(range[1])} mm/s².
            </p>
          )}
          <Both
            axis={axis}
            other={otherAxis}
            here={acceleration}
            there={beside?.proposal.acceleration ?? null}
            shared={shared}
            known={other !== null && other !== undefined}
            href={`/bench/${page.benchId}/shake?axis=${otherAxis}`}
          />
          <p className="mt-4 flex flex-wrap gap-2">
            <ActButton className="btn-main" working="Saving …" act={() => acts.save(choice)}>
              Save to ledger{row.simulated ? ', as simulated' : ''}
            </ActButton>
            <ActButton className="btn-quiet" act={() => acts.prove(choice)}>
              Prove it on a print
            </ActButton>
          </p>
          {held && (
            <p className="soft mt-2" role="status">
              The ledger has {held}.
            </p>
          )}
          <Term of="shaper" says="What an input shaper is" />
          <section className="rule-above" aria-label="Shapers">
            <h2>What would remain of a corner: press another to choose it</h2>
            <Shapers
              acceleration={acceleration}
              plain={proposal.plain}
              limits={limits}
              peak={row.found.peaks[0]!}
              shapers={shapers}
              chosen={shaper?.type ?? null}
              proposed={proposal.type}
              onChoose={(one) => setType(one === proposal.type ? null : one)}
            />
          </section>
          <section className="rule-above" aria-label="What may be seen">
            <h2>What may be seen</h2>
            <p className="flex flex-wrap items-center gap-x-2 gap-y-2">
              Ghosts up to
              <NumberBox
                className="input input-sm w-20"
                label="Ghost that may be seen"
                unit="mm"
                value={limits.echo}
                {...ECHO}
                wrong={!inside(limits.echo, ECHO)}
                onChange={(echo) => setLimits({ ...limits, echo })}
              />
              mm, corners cut up to
              <NumberBox
                className="input input-sm w-20"
                label="Corner that may be cut"
                unit="mm"
                value={limits.rounding}
                {...CUT}
                wrong={!inside(limits.rounding, CUT)}
                onChange={(rounding) => setLimits({ ...limits, rounding })}
              />
              mm
            </p>
          </section>
          <section className="rule-above" aria-label="The record">
            <h2>The record</h2>
            <p>{aboutRecord(row)}</p>
            {row.found.notes.map((note) => (
              <p key={note} className="mt-1">
                {note}
              </p>
            ))}
            <Records {...page} chosen={row.id} putAway={acts.putAway} />
          </section>
          <details className="rule-above">
            <summary className="cursor-pointer text-lg font-semibold">Shake again</summary>
            <NewRecord {...page} acts={acts} />
            <Echoes {...page} acts={acts} />
          </details>
        </section>
      </main>
    </>
  );
}

const inside = (value: number, { min, max }: { min: number; max: number }) =>
  value >= min && value <= max;

function of(
  rows: readonly ShakeRow[],
  limits: Limits,
  machine: number,
  kinds: readonly Shaper[],
): Proposed | null {
  if (!inside(limits.echo, ECHO) || !inside(limits.rounding, CUT))
    return of(rows, LIMITS, machine, kinds);
  return proposedFor(
    rows.map(({ found }) => found),
    { limits, machine, kinds },
  );
}

function says(
  answer: 'shaper' | 'none' | 'mend',
  shaper: { type: Shaper; hz: number; moved: number } | null,
  plain: number,
  most: number,
): string {
  if (answer === 'none' && !shaper)
    return 'No shaper is needed: without one no ghost can be seen up to there.';
  if (!shaper) return '';
  return `With a shaper of ${SHAPER_TITLES[shaper.type]} at ${short(shaper.hz, 1)} Hz. Without a shaper ghosts show from ${safely(plain)}. If what rings moves by a tenth, ${safely(Math.min(most, shaper.moved))} still holds.`;
}

const titleOf = (row: ShakeRow, nowMs: number): string =>
  `${row.axis}, ${age(row.takenAt, nowMs)}${row.simulated ? `, ${row.simulated.name}` : ''} · ${row.name}`.slice(
    0,
    70,
  );

/** What changed from one record to the other, in a sentence. */
function compare({ found }: ShakeRow, { found: other, name }: ShakeRow): string {
  const [here, there] = [found, other].map(({ peaks }) => peaks[0]!) as [Peak, Peak];
  const by = Math.round(100 * (here.hz / there.hz - 1));
  const how = by === 0 ? 'as there' : `${Math.abs(by)} % ${by > 0 ? 'higher' : 'lower'} than`;
  return `It rings at ${short(here.hz, 1)} Hz, ${how}${by === 0 ? ',' : ''} in ${name} (${short(there.hz, 1)} Hz); damping ${short(here.damping, 3)} instead of ${short(there.damping, 3)}.`;
}
type Peak = ShakeRow['found']['peaks'][number];

function aboutRecord({ found, name }: ShakeRow): string {
  if (found.from === 'echoes') return `From echoes: ${name}.`;
  const { rate, seconds, unit, sensor } = found;
  const mounted = sensor
    ? ` At rest the sensor feels ${short(sensor.weight, 2)} g; its ${sensor.up} points up, and its ${sensor.along} moved most.`
    : '';
  return `${name}: ${short(seconds ?? 0, 0)} s at ${counted(rate ?? 0)} samples a second, in ${unit}.${mounted} Nothing is clipped, and there are no gaps.`;
}

type BothProps = {
  axis: AxisName;
  other: AxisName;
  here: number;
  there: number | null;
  shared: boolean;
  known: boolean;
  href: string;
};

/** What both axes come to: the bench is as fast as its slower one. */
function Both({ axis, other, here, there, shared, known, href }: BothProps) {
  if (shared && known)
    return (
      <p className="mt-2">
        This machine has one shaper for both axes: {axis} and {other} are calmed together.
      </p>
    );
  if (there === null)
    return (
      <p className="mt-2">
        <Link href={href} className="inline-block min-h-6 underline">
          Shake {other} as well
        </Link>
        : the bench prints clean up to the smaller of both.
      </p>
    );
  return (
    <p className="mt-2">
      The{' '}
      <Link href={href} className="inline-block min-h-6 underline">
        {other} axis
      </Link>{' '}
      allows {safely(there)} mm/s². Once both are saved, the bench prints clean up to{' '}
      <b>{safely(Math.min(here, there))}</b>.
    </p>
  );
}

function Peaks({
  row,
  compared,
  nowMs,
}: {
  row: ShakeRow;
  compared: ShakeRow | null;
  nowMs: number;
}) {
  const words = { axis: '', panel: 'rattles beside the axis', steady: 'hums by itself' };
  return (
    <div className="overflow-x-auto">
      <table className="table-sm table max-w-xl">
        <caption className="sr-only">What rings</caption>
        <thead>
          <tr>
            <th>Rings at</th>
            <th>Damping</th>
            <th>Width</th>
            <th>Share</th>
            <th>
              <span className="sr-only">What it is</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {row.found.peaks.map((peak) => (
            <tr key={peak.hz}>
              <td className="font-semibold tabular-nums">{short(peak.hz, 1)} Hz</td>
              <td className="tabular-nums">{short(peak.damping, 3)}</td>
              <td className="tabular-nums">{short(peak.width, 1)} Hz</td>
              <td className="tabular-nums">{Math.round(100 * peak.share)} %</td>
              <td className="soft">{words[peak.of]}</td>
            </tr>
          ))}
          {compared?.found.peaks.map((peak) => (
            <tr key={`beside ${peak.hz}`} className="text-primary">
              <td className="tabular-nums">{short(peak.hz, 1)} Hz</td>
              <td className="tabular-nums">{short(peak.damping, 3)}</td>
              <td className="tabular-nums">{short(peak.width, 1)} Hz</td>
              <td className="tabular-nums">{Math.round(100 * peak.share)} %</td>
              <td>{titleOf(compared, nowMs)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Records({
  benchId,
  axis,
  shakes,
  chosen,
  nowMs,
  putAway,
}: ShakePage & { putAway: ShakeActs['putAway'] }) {
  const [away, setAway] = useState<number | null>(null);
  return (
    <>
      <ul className="divide-base-300 mt-3 divide-y">
        {shakes.map((row) => (
          <li key={row.id} className="flex flex-wrap items-center gap-x-3 py-1.5">
            <Link
              href={`/bench/${benchId}/shake?axis=${axis}&record=${row.id}`}
              aria-current={row.id === chosen ? 'page' : undefined}
              className={`min-h-6 flex-1 basis-40 ${row.id === chosen ? 'font-semibold' : 'underline'}`}
            >
              {titleOf(row, nowMs)}
            </Link>
            <ActButton
              className="btn btn-ghost btn-sm font-normal"
              needs="change"
              label={`Archive the record ${row.name}`}
              act={async () => {
                const done = await putAway(row.id, true);
                if (done.ok) setAway(row.id);
                return done;
              }}
            >
              Archive
            </ActButton>
          </li>
        ))}
      </ul>
      {away !== null && (
        <p className="mt-2 flex items-center gap-3" role="status">
          It is in the archive.
          <ActButton
            className="btn-quiet btn-sm"
            act={async () => {
              const done = await putAway(away, false);
              if (done.ok) setAway(null);
              return done;
            }}
          >
            Undo
          </ActButton>
        </p>
      )}
    </>
  );
}
