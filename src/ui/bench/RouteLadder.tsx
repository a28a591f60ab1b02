// The route as a ladder of its own: bottom first, so it is drawn from the top down in reverse.
import type { Stop } from '@/core/route/route';
import { settingInfo } from '@/core/bench/settings';
import { age, withUnit } from '../common/format';

type Props = { route: readonly Stop[]; nowMs: number; chosen: string | null };

const ROW = 68;
/** Width of the drawing, px; on a phone it is squeezed. */
const WIDE = 124;
const LEAST_HEIGHT = 220;
const WORDS = {
  designed: 'set up',
  printed: 'printed, waiting to be scored',
  reading: 'partly scored',
  read: 'scored',
};

/** What moved, without from where to where: that is said where it is acted on. */
const moved = (reason: string): string => reason.replace(/ changed from .*$/, '');

export function RouteLadder({ route, nowMs, chosen }: Props) {
  // What is only asked for on suspicion shows once there is something to show.
  const rows = route
    .filter(({ onDemand, found, underway }) => !onDemand || found || underway)
    .reverse();
  // The rails reach on: the route grows with the kinds.
  const height = Math.max(rows.length * ROW, LEAST_HEIGHT);
  const top = height - rows.length * ROW;
  return (
    <div className="relative" style={{ minHeight: height }}>
      <svg
        className="absolute top-0 left-0 w-12 sm:w-[124px]"
        height={height}
        viewBox={`0 0 ${WIDE} ${height}`}
        preserveAspectRatio="none"
        aria-hidden
        role="presentation"
      >
        <rect x={14} width={10} height={height} rx={3} className="fill-secondary" />
        <rect x={100} width={10} height={height} rx={3} className="fill-secondary" />
        {rows.map(({ kind, state }, i) => (
          <rect
            key={kind}
            x={8}
            y={top + ROW * (i + 0.5) - 7}
            width={108}
            height={14}
            rx={7}
            strokeWidth={state === 'fresh' ? 0 : 2.5}
            strokeDasharray={state === 'open' ? '6 5' : undefined}
            className={
              state === 'fresh'
                ? 'fill-secondary brightness-90'
                : state === 'stale'
                  ? 'fill-base-100 stroke-primary'
                  : 'fill-base-100 stroke-secondary'
            }
          />
        ))}
      </svg>
      <ol className="pl-16 sm:pl-36" style={{ paddingTop: top }} aria-label="Route, last first">
        {rows.map(({ kind, title, state, found, tried, reasons, says, underway, setting }, i) => (
          <li
            key={kind}
            aria-current={kind === chosen ? 'step' : undefined}
            className={`border-base-300 grid content-center items-center gap-x-4 sm:grid-cols-[minmax(7rem,11rem)_minmax(0,1fr)] ${i > 0 ? 'border-t' : ''}`}
            style={{ height: ROW }}
          >
            <span
              className={`leading-tight sm:text-lg ${state === 'fresh' ? '' : 'font-semibold'}`}
            >
              {title}
            </span>
            <span className="flex min-w-0 flex-wrap items-baseline gap-x-3 sm:gap-x-4">
              {found ? (
                <>
                  <strong className="text-lg whitespace-nowrap sm:text-2xl">
                    {withUnit(
                      found.value,
                      settingInfo(setting).unit,
                      settingInfo(setting).decimals,
                    )}
                  </strong>
                  <span
                    className="soft min-w-0 leading-tight"
                    title={state === 'stale' ? reasons.join(', ') : undefined}
                  >
                    {state === 'stale'
                      ? `stale${found.simulated ? ', simulated' : ''}: ${reasons.map(moved).join(', ')}`
                      : age(found.at, nowMs)}
                    {found.simulated && state !== 'stale' && ', simulated'}
                    {found.provenAt &&
                      state !== 'stale' &&
                      `, proven ${age(found.provenAt, nowMs)}`}
                    {tried &&
                      `, ${withUnit(tried.value, settingInfo(setting).unit, settingInfo(setting).decimals)} simulated`}
                  </span>
                </>
              ) : (
                <span className="soft">{says ?? 'open'}</span>
              )}
              {underway && <span className="soft">a ladder is {WORDS[underway.state]}</span>}
            </span>
          </li>
        ))}
      </ol>
    </div>
  );
}
