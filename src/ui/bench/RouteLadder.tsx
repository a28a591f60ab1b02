'use client';
// The route as a ladder of its own: bottom first, so it is drawn from the top down in reverse. Each rung opens in place.
import { useState, type KeyboardEvent } from 'react';
import { settingInfo } from '@/core/bench/settings';
import { listed } from '@/core/text';
import { age, withUnit } from '../common/format';
import type { Outcome } from '../common/ActButton';
import { RungPanel } from './RungPanel';
import { GO_ON, type Rung } from './rungs';
import { useOpenRung } from './useOpenRung';

type Props = {
  rungs: readonly Rung[];
  nowMs: number;
  /** What comes next. */
  chosen: string | null;
  bench: number;
  /** Changes with the bench. */
  stamp: string;
  setUp: (kind: string) => Promise<Outcome>;
};

/** What moved, without from where to where: that is said when it is opened. */
const moved = (reason: string): string => reason.replace(/ changed from .*$/, '');

const BARS = {
  fresh: 'bg-secondary brightness-90',
  stale: 'bg-base-100 border-[2.5px] border-primary',
  open: 'bg-base-100 border-[2.5px] border-dashed border-secondary',
};

export function RouteLadder({ rungs, nowMs, chosen, bench, stamp, setUp }: Props) {
  const [open, setOpen] = useOpenRung();
  const [unfolded, setUnfolded] = useState(false);
  // What is only asked for on suspicion stands above what is asked for.
  const rows = rungs.filter(isAsked).reverse();
  const suspected = rungs.filter((rung) => !isAsked(rung));
  const folds = (rung: Rung): boolean =>
    rung.state === 'open' && !rung.underway && rung.kind !== chosen && rung.kind !== open;
  const folded = rows.filter(folds);
  return (
    <>
      <ol className="flex flex-col" aria-label="Route, last first" onKeyDown={walk}>
        {rows.map((rung) => (
          <RungRow
            key={rung.kind}
            rung={rung}
            nowMs={nowMs}
            chosen={rung.kind === chosen}
            // On a phone what is found comes first, the rest in one line.
            className={folds(rung) ? `max-lg:order-2 ${unfolded ? '' : 'max-lg:hidden'}` : ''}
            open={rung.kind === open}
            toggle={() => setOpen(rung.kind === open ? '' : rung.kind)}
          >
            <RungPanel rung={rung} bench={bench} stamp={stamp} nowMs={nowMs} setUp={setUp} />
          </RungRow>
        ))}
        {folded.length > 0 && (
          <li className="order-1 lg:hidden">
            <button
              type="button"
              className="border-base-300 min-h-11 w-full border-t py-2 text-left"
              aria-expanded={unfolded}
              onClick={() => setUnfolded(!unfolded)}
            >
              <b className="font-semibold">{folded.length} not found yet</b>{' '}
              <span className="soft">{listed(folded.map(({ title }) => title.toLowerCase()))}</span>
            </button>
          </li>
        )}
      </ol>
      {suspected.length > 0 && (
        <details
          className="rule-above"
          // One of them that the address names is in sight.
          open={suspected.some(({ kind }) => kind === open) || undefined}
        >
          <summary className="min-h-11 cursor-pointer leading-[2.75rem]">
            Only when you suspect something: {suspected.length} more
          </summary>
          <ul aria-label="Only when you suspect something" onKeyDown={walk}>
            {suspected.map((rung) => (
              <RungRow
                key={rung.kind}
                rung={rung}
                nowMs={nowMs}
                chosen={false}
                className=""
                open={rung.kind === open}
                toggle={() => setOpen(rung.kind === open ? '' : rung.kind)}
              >
                <RungPanel rung={rung} bench={bench} stamp={stamp} nowMs={nowMs} setUp={setUp} />
              </RungRow>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}

const isAsked = ({ onDemand, found, underway }: Rung): boolean =>
  !onDemand || found !== null || underway !== null;

/** Arrow keys go from rung to rung. */
function walk(event: KeyboardEvent<HTMLElement>): void {
  const by = { ArrowUp: -1, ArrowDown: 1 }[event.key];
  const heads = [...event.currentTarget.querySelectorAll<HTMLElement>('[data-rung]')].filter(
    (head) => head.offsetParent !== null,
  );
  const at = heads.indexOf(event.target as HTMLElement);
  if (!by || at < 0) return;
  event.preventDefault();
  heads[at + by]?.focus();
}

function RungRow({
  rung,
  nowMs,
  chosen,
  className,
  open,
  toggle,
  children,
}: {
  rung: Rung;
  nowMs: number;
  chosen: boolean;
  className: string;
  open: boolean;
  toggle: () => void;
  children: React.ReactNode;
}) {
  const { kind, title, state, found, tried, says, underway, setting, between } = rung;
  const { unit, decimals } = settingInfo(setting);
  return (
    <li
      aria-current={chosen ? 'step' : undefined}
      className={`relative pl-16 sm:pl-36 ${className}`}
    >
      <span aria-hidden>
        <span className="bg-secondary absolute inset-y-0 left-1.5 w-1 sm:left-[14px] sm:w-2.5" />
        <span className="bg-secondary absolute inset-y-0 left-[38px] w-1 sm:left-[100px] sm:w-2.5" />
        <span
          className={`absolute top-7 left-0.5 h-3.5 w-11 rounded-full sm:left-2 sm:w-[108px] ${BARS[state]}`}
        />
      </span>
      <div className="border-base-300 border-b">
        <button
          type="button"
          data-rung
          className="group grid min-h-17 w-full content-center items-baseline gap-x-4 py-2 text-left sm:grid-cols-[minmax(7rem,11rem)_minmax(0,1fr)_auto]"
          aria-expanded={open}
          aria-controls={open ? `rung-${kind}` : undefined}
          onClick={toggle}
        >
          <span
            className={`leading-tight group-hover:underline sm:text-lg ${state === 'fresh' ? '' : 'font-semibold'}`}
          >
            {title}
          </span>
          <span className="flex min-w-0 flex-wrap items-baseline gap-x-3 sm:gap-x-4">
            {found ? (
              <>
                <strong className="text-xl whitespace-nowrap sm:text-2xl">
                  {withUnit(found.value, unit, decimals)}
                </strong>
                {between && <span className="text-neutral whitespace-nowrap">{between}</span>}
                <span className="soft min-w-0 leading-tight">
                  {standing(rung, nowMs)}
                  {tried && `, ${withUnit(tried.value, unit, decimals)} simulated`}
                </span>
              </>
            ) : (
              says && <span className="soft">{says}</span>
            )}
            {underway && <span className="soft">a ladder is {GO_ON[underway.state].short}</span>}
          </span>
          <span aria-hidden className="text-neutral hidden sm:block">
            {open ? '−' : '+'}
          </span>
        </button>
        {open && <div id={`rung-${kind}`}>{children}</div>}
      </div>
    </li>
  );
}

/** How old a value is, and since when and why it holds no more. */
function standing({ state, found, reasons, since }: Rung, nowMs: number): string {
  const simulated = found!.simulated ? ', simulated' : '';
  if (state === 'stale') {
    const when = since === null ? '' : ` since ${sinceWhen(since, nowMs)}`;
    return `stale${when}${simulated}: ${reasons.map(moved).join(', ')}`;
  }
  const proven = found!.provenAt ? `, proven ${age(found!.provenAt, nowMs)}` : '';
  return `${age(found!.at, nowMs)}${simulated}${proven}`;
}

/** A date as it goes with "since": how long ago, where that is a word; otherwise the day. */
function sinceWhen(iso: string, nowMs: number): string {
  const words = age(iso, nowMs);
  return words === 'today' || words === 'yesterday'
    ? words
    : new Date(iso).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', timeZone: 'UTC' });
}
