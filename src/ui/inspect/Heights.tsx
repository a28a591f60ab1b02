'use client';
// Every command that changes how plastic is laid, on the axis of the print's height.
import { useMemo, useState } from 'react';
import { short } from '@/core/numbers';
import type { Rung } from '@/core/plan/plan';
import type { Track } from '@/core/view/heights';

type Props = {
  tracks: Track[];
  height: number;
  rungs: readonly Rung[];
  onLine: (line: number) => void;
};

/** Drawn height, px, and the width of one track. */
const TALL = 360;
const WIDE = 84;
const PAD = 14;
/** Commands listed below the drawing. */
const MOST_LISTED = 300;

export function Heights({ tracks, height, rungs, onLine }: Props) {
  const [open, setOpen] = useState(0);
  const rows = useMemo(() => tracks.map((one) => rowsOf(one, placeOf(height))), [tracks, height]);
  if (tracks.length === 0 || !(height > 0))
    return <p className="soft">The file changes neither heat, fan, speed nor flow.</p>;
  const y = placeOf(height);
  const track = tracks[Math.min(open, tracks.length - 1)]!;
  const step = [1, 2, 5, 10, 20, 50, 100, 200].find((one) => height / one <= 9) ?? 500;
  return (
    <div>
      <div className="overflow-x-auto">
        <svg
          width={48 + tracks.length * WIDE}
          height={TALL}
          role="img"
          aria-label="Commands by height"
        >
          {rungs.map(({ index, z }) => (
            <rect
              key={index}
              x={44}
              width={tracks.length * WIDE}
              y={y(z.to)}
              height={y(z.from) - y(z.to)}
              className={index % 2 === 0 ? 'fill-base-300/45' : 'fill-transparent'}
            />
          ))}
          {Array.from({ length: Math.floor(height / step) + 1 }, (_, i) => i * step).map((mm) => (
            <text
              key={mm}
              x={36}
              y={y(mm) + 4}
              textAnchor="end"
              className="fill-neutral text-[12px]"
            >
              {mm}
            </text>
          ))}
          {tracks.map((one, i) => (
            <g key={one.name} transform={`translate(${48 + i * WIDE} 0)`}>
              <line x1={0} x2={0} y1={PAD} y2={TALL - PAD} className="stroke-base-300" />
              <path
                d={stepPath(rows[i]!)}
                fill="none"
                className={i === open ? 'stroke-primary' : 'stroke-info'}
                strokeWidth={2}
              />
              {rows[i]!.map(({ y: at, last }) => (
                <circle
                  key={at}
                  cx={last}
                  cy={at}
                  r={2}
                  className={i === open ? 'fill-primary' : 'fill-info'}
                />
              ))}
            </g>
          ))}
        </svg>
        <div
          className="flex"
          style={{ paddingLeft: 48, width: 48 + tracks.length * WIDE }}
          role="tablist"
        >
          {tracks.map((one, i) => {
            const [low, high] = endsOf(one);
            return (
              <button
                key={one.name}
                type="button"
                role="tab"
                aria-selected={i === open}
                className={`min-h-11 shrink-0 self-start border-t-2 pt-1 pr-1 text-left text-[13px] leading-tight ${i === open ? 'border-primary' : 'border-transparent'}`}
                style={{ width: WIDE }}
                onClick={() => setOpen(i)}
              >
                <b>{one.title}</b>
                <br />
                {low === high
                  ? said(low, one.unit)
                  : `${said(low, one.unit)} to ${said(high, one.unit)}`}
              </button>
            );
          })}
        </div>
      </div>
      <h2 className="mt-4">
        {track.title}: {track.count} {track.count === 1 ? 'command' : 'commands'}
      </h2>
      <ul className="max-h-56 overflow-y-auto text-sm">
        {Array.from({ length: Math.min(MOST_LISTED, track.line.length) }, (_, i) => (
          <li key={i}>
            <button
              type="button"
              className="hover:bg-base-200 flex min-h-8 w-full gap-4 text-left"
              onClick={() => onLine(track.line[i]!)}
            >
              <span className="text-neutral w-24">line {track.line[i]}</span>
              <span className="w-28">
                {Number.isFinite(track.z[i]) ? `from ${short(track.z[i]!, 2)} mm` : 'at the end'}
              </span>
              <b>{said(track.value[i]!, track.unit)}</b>
            </button>
          </li>
        ))}
        {track.count > MOST_LISTED && (
          <li className="soft">and {track.count - MOST_LISTED} more</li>
        )}
      </ul>
    </div>
  );
}

/** Place of a height in the drawing, px from its top. */
const placeOf =
  (height: number) =>
  (z: number): number =>
    PAD + (1 - Math.min(1, Math.max(0, z / height))) * (TALL - 2 * PAD);

const said = (value: number, unit: string): string =>
  unit === 'share' ? `${short(value * 100, 0)} %` : `${short(value, 3)} ${unit}`.trim();

function endsOf({ value, z }: Track): [number, number] {
  const ends = (counts: (i: number) => boolean): [number, number] => {
    let [low, high] = [Infinity, -Infinity];
    for (let i = 0; i < value.length; i++) {
      if (!counts(i)) continue;
      low = Math.min(low, value[i]!);
      high = Math.max(high, value[i]!);
    }
    return [low, high];
  };
  const printed = ends((i) => Number.isFinite(z[i]));
  return printed[0] <= printed[1] ? printed : ends(() => true);
}

function place(track: Track): (value: number) => number {
  const [low, high] = endsOf(track);
  return (value) =>
    8 + (high > low ? Math.min(1, Math.max(0, (value - low) / (high - low))) : 0.5) * (WIDE - 26);
}

type Row = { y: number; low: number; high: number; last: number };

/**
 * What of a track can be seen: on each row of pixels the ends and the last of its values, however many commands
 * there are.
 */
function rowsOf(track: Track, y: (z: number) => number): Row[] {
  const x = place(track);
  const rows: Row[] = [];
  for (let i = 0; i < track.z.length; i++) {
    if (!Number.isFinite(track.z[i])) break;
    const [at, here] = [Math.round(y(track.z[i]!)), x(track.value[i]!)];
    const row = rows.at(-1);
    if (row?.y !== at) rows.push({ y: at, low: here, high: here, last: here });
    else {
      row.low = Math.min(row.low, here);
      row.high = Math.max(row.high, here);
      row.last = here;
    }
  }
  return rows;
}

/** A line that keeps each value until the next command. */
function stepPath(rows: readonly Row[]): string {
  const n = (value: number) => value.toFixed(1);
  const steps = rows.map(({ y, low, high, last }, i) =>
    low === high
      ? `${i === 0 ? `M${n(last)} ${y}` : `V${y}H${n(last)}`}`
      : `${i === 0 ? `M${n(low)} ${y}` : `V${y}H${n(low)}`}H${n(high)}H${n(last)}`,
  );
  return steps.length === 0 ? '' : `${steps.join('')}V${PAD}`;
}
