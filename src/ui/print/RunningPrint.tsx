'use client';
// A ladder while a machine prints it: the drawing fills up rung by rung, and the value in force is the largest thing.
import Link from 'next/link';
import { useEffect, useMemo, useState } from 'react';
import type { LinkState } from '@/core/link-state';
import { short, signed } from '@/core/numbers';
import { lastHeight, nudgedBy, type Floor, type Nudge } from '@/core/plan/nudged';
import { secondsAt, type LineTimes } from '@/core/motion/line-times';
import type { Plan, Rung } from '@/core/plan/plan';
import type { Named } from '@/core/view/shared-axis';
import { ActButton, type Outcome } from '../common/ActButton';
import { counted, duration } from '../common/format';
import { PrintPicture } from '../common/PrintPicture';
import { fitting, liesWide } from '../common/PrintWithCells';
import { PrintWithRows } from '../common/PrintWithRows';
import { isOver, JobButtons, type JobActs } from '../machine/JobPanel';
import { StopEverything } from '../machine/StopEverything';
import { useMachine } from '../machine/useMachine';
import { HeatAlong } from './HeatAlong';
import { HeightNudge } from './HeightNudge';
import { NudgeMarks, type Frame } from './NudgeMarks';
import { useHeat } from './useHeat';

type Props = {
  machine: number;
  name: string;
  fileId: number;
  first: LinkState;
  stands: { height: number; width: number; stretch: number; rungs: RungLine[] };
  /** What grows one after the other: rungs, or of a grid its rows. */
  unit: 'rung' | 'row';
  /** Of a first-layer ladder: what is seen from above, and how low it may be nudged. */
  firstLayer: FirstLayer | null;
  picture: string;
  times: LineTimes;
  ladder: number;
  machineHref: string;
  acts: JobActs & {
    stopEverything: () => Promise<Outcome>;
    nudge: (mm: number) => Promise<Outcome>;
    keepHeight: (job: number) => Promise<Outcome>;
  };
};
type FirstLayer = {
  frame: Frame;
  floors: Floor[];
  plan: Pick<Plan, 'rungs'>;
  /** Whether the machine takes and stores its height by command. */
  stores: boolean;
  /** Whether the height that it came to was taken over, and what is left to add; null where it is not over. */
  kept: boolean;
  left: number | null;
};
type RungLine = Named<Rung>;

const NONE: Nudge[] = [];

/** What is measured of the pace counts once this much of the print was seen, s of the planner. */
const ENOUGH_S = 20;

export function RunningPrint(props: Props) {
  const { stands, times, ladder, acts, fileId } = props;
  const state = useMachine(props.machine, props.first) ?? props.first;
  const { job, heat, simulated } = state;
  const mine = job?.file === fileId ? job : null;
  const line = mine?.line ?? 0;
  const left = useLeft(times, line, mine?.state === 'printing');
  const over = mine === null || isOver(mine);
  const done = mine?.state === 'finished';
  const rows = useHeat(props.machine, !over);
  const rungs = [...stands.rungs].sort((a, b) => a.line - b.line);
  const now = over ? null : (rungs.findLast((rung) => rung.line <= line) ?? null);
  const ends = (i: number) => rungs[i + 1]?.line ?? times.line.at(-1)!;
  const share = ({ index }: RungLine): number => {
    if (done) return 1;
    const i = rungs.findIndex((rung) => rung.index === index);
    const [from, to] = [rungs[i]!.line, ends(i)];
    return Math.min(1, Math.max(0, (line - from) / Math.max(1, to - from)));
  };
  const wide = liesWide(stands);
  /** How long until a rung begins, as far as that is foreseen. */
  const comes = (rung: RungLine): string => {
    const all = times.seconds.at(-1)!;
    const [at, then] = [secondsAt(times, line), secondsAt(times, rung.line)];
    // At the pace that it really goes.
    const seconds = (then - at) * (left === null || at >= all ? 1 : left / (all - at));
    return over || seconds <= 0 ? '' : `in ${duration(seconds)}`;
  };
  const layer = props.firstLayer;
  const nudges = mine?.nudges ?? NONE;
  const total = nudges.at(-1)?.total ?? 0;
  const higher = useMemo(() => nudgedBy(stands.rungs, nudges), [stands.rungs, nudges]);
  /** Its name, at the height that it has by now. */
  const nameOf = (rung: RungLine): string => {
    const by = rung.index === now?.index ? total : (higher.get(rung.index) ?? 0);
    return layer && by !== 0 ? `${short((rung.set.zOffset ?? 0) + by)} mm` : rung.name;
  };
  const last = layer && over ? lastHeight(layer.plan, nudges, line) : null;
  return (
    <main
      className={`stage [--beside:10.5rem] max-lg:pb-24 ${wide ? 'stage-over lg:[--beside:19rem]' : 'lg:[--beside:20.5rem]'}`}
    >
      <section
        aria-label="Drawing"
        className={`stage-print max-lg:order-2 ${wide ? 'max-lg:overflow-x-auto' : ''}`}
        // On a phone it is moved sideways, with keys too.
        tabIndex={wide ? 0 : undefined}
      >
        <PrintWithRows
          height={stands.height}
          width={stands.width}
          rungs={stands.rungs}
          stretch={stands.stretch}
          picture={
            <div className="relative h-full">
              <PrintPicture src={props.picture} className="h-full w-full" />
              {!done &&
                stands.rungs.map((rung) => (
                  // What is not printed yet is only hinted at.
                  <i
                    key={rung.index}
                    aria-hidden
                    className="bg-base-100/80 absolute inset-x-0"
                    style={{
                      bottom: `${(100 * (rung.z.from + share(rung) * (rung.z.to - rung.z.from))) / stands.height}%`,
                      height: `${(100 * (1 - share(rung)) * (rung.z.to - rung.z.from)) / stands.height}%`,
                    }}
                  />
                ))}
              {layer && <NudgeMarks nudges={nudges} frame={layer.frame} />}
            </div>
          }
          over={
            mine && (
              <HeatAlong
                rows={rows}
                rungs={stands.rungs}
                height={stands.height}
                last={times.line.at(-1)!}
              />
            )
          }
          row={(rung) => (
            <div className="flex w-full items-center gap-3 pr-16 pl-3 lg:pr-40">
              <span
                className={`whitespace-nowrap ${rung.index === now?.index ? 'text-primary text-2xl font-bold' : share(rung) > 0 ? 'text-lg font-semibold' : 'text-neutral text-lg'}`}
                style={wide ? fitting(rung.z) : undefined}
              >
                {nameOf(rung)}
              </span>
              {!wide && (
                <span className="soft ml-auto pr-2 max-lg:hidden">
                  {rung.index === now?.index ? 'now' : share(rung) >= 1 ? 'done' : comes(rung)}
                </span>
              )}
            </div>
          )}
        />
      </section>
      <section className={wide ? 'grid items-start gap-x-12 lg:grid-cols-2' : 'max-w-2xl'}>
        <div>
          <div role="status">
            <p className="soft">
              {simulated ? `Simulated: ${simulated.name} stands in for ${props.name}` : props.name}
            </p>
            {now ? (
              <>
                <p className="mt-1">
                  Printing {props.unit} {rungs.findIndex(({ index }) => index === now.index) + 1} of{' '}
                  {rungs.length}
                </p>
                <h1 className="text-6xl leading-tight font-semibold">{nameOf(now)}</h1>
              </>
            ) : (
              <h1 className="text-3xl font-semibold">
                {done
                  ? 'Printed'
                  : over
                    ? ((mine && STATES[mine.state]) ?? 'It is not printing')
                    : 'Getting ready'}
              </h1>
            )}
            {mine && !over && STATES[mine.state] && (
              <p className="mt-2 text-xl font-semibold">{STATES[mine.state]}</p>
            )}
            {mine?.why && <p className="border-secondary my-3 border-l-4 pl-3">{mine.why}</p>}
            {mine && !over && (
              <p className="mt-2">
                {left === null ? '' : `${duration(left)} to go. `}Line {counted(mine.sure)} of{' '}
                {counted(mine.lines)} is sure.
                {mine.keepsHeatS !== null &&
                  ` Heat is kept for ${Math.max(1, Math.ceil(mine.keepsHeatS / 60))} min more.`}
              </p>
            )}
          </div>
          <div className="mt-4 flex flex-wrap gap-2">
            {mine && !over && <JobButtons state={mine.state} acts={acts} />}
            {done && (
              <Link className="btn-main" href={`/ladder/${ladder}/read`}>
                Score it
              </Link>
            )}
            {over && (
              <Link className="btn-quiet" href={`/ladder/${ladder}/print?again`}>
                Print it again
              </Link>
            )}
          </div>
          {layer && now && mine?.state === 'printing' && (
            <HeightNudge total={total} floors={layer.floors} line={mine.sure} nudge={acts.nudge} />
          )}
          {last !== null && mine && layer?.kept && (
            <p className="border-success my-4 border-l-4 pl-3">
              {layer.stores
                ? `${props.name} has the final height: it confirmed it, and keeps it.`
                : 'The final height is in the ledger.'}
            </p>
          )}
          {last !== null && mine && !layer?.kept && (
            <div className="border-secondary my-4 border-l-4 pl-3">
              <p className="mb-2">
                The last patch stood at <b>{signed(last)} mm</b>, {signed(total)} of it nudged.{' '}
                {mine.nudged === 0
                  ? 'The nudge was undone at the end.'
                  : 'The nudge could not be undone: switch the machine off and on.'}
              </p>
              <ActButton
                className={done ? 'btn-quiet' : 'btn-main'}
                needs="start"
                working="Adding it …"
                act={() => acts.keepHeight(mine.id)}
              >
                {layer!.stores
                  ? `Add ${signed(layer!.left ?? last)} mm to the machine, prove, store`
                  : `Put ${signed(last)} mm into the ledger`}
              </ActButton>
            </div>
          )}
          {!over && (
            <div className="max-w-sm">
              <StopEverything stop={acts.stopEverything} />
            </div>
          )}
        </div>
        <div>
          <dl className="rule-above grid grid-cols-2 gap-2 text-lg">
            {(['nozzle', 'bed'] as const).map((name) => (
              <div key={name}>
                <dt className="soft capitalize">{name}</dt>
                <dd>
                  <b>{heat[name] ? `${Math.round(heat[name].now)} °C` : '–'}</b>{' '}
                  <span className="soft">
                    {heat[name] && heat[name].target > 0
                      ? `target ${Math.round(heat[name].target)}`
                      : 'off'}
                  </span>
                </dd>
              </div>
            ))}
          </dl>
          {rows.length > 1 && (
            <p className="soft mt-2">
              Along the print: the nozzle as it was measured, and dashed what was asked of it.
            </p>
          )}
          <p className="mt-4">
            <Link className="underline" href={props.machineHref}>
              {props.name} on the wire
            </Link>
          </p>
        </div>
      </section>
    </main>
  );
}

const STATES: Partial<Record<NonNullable<LinkState['job']>['state'], string>> = {
  pausing: 'Pausing …',
  paused: 'Paused',
  stopping: 'Stopping and cooling …',
  lost: 'Link lost, looking for it',
  stopped: 'Stopped',
  failed: 'Ended early',
};

/** Seconds to go: the planner's, corrected by how fast it really went since this was first looked at. */
function useLeft(times: LineTimes, line: number, running: boolean): number | null {
  const [began, setBegan] = useState<{ at: number; ms: number } | null>(null);
  const [left, setLeft] = useState<number | null>(null);
  useEffect(() => {
    const at = secondsAt(times, line);
    const all = times.seconds.at(-1)!;
    const ms = Date.now();
    const timer = setTimeout(() => {
      // A pause would count as slow printing: what was measured begins anew after it.
      if (!running) return setBegan(null);
      if (!began) return setBegan({ at, ms });
      const seen = at - began.at;
      const pace = seen > ENOUGH_S ? (ms - began.ms) / 1000 / seen : 1;
      setLeft((all - at) * pace);
    });
    return () => clearTimeout(timer);
  }, [times, line, running, began]);
  return running ? left : null;
}
