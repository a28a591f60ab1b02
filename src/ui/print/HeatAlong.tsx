// How warm the nozzle was, drawn along the print itself: target and measured, rung by rung.
import type { HeatRow } from '@/core/link-state';
import type { Rung } from '@/core/plan/plan';
import { heatAlong, warmthScale } from '@/core/view/heat-along';

type Props = {
  rows: readonly HeatRow[];
  rungs: readonly Pick<Rung, 'index' | 'line' | 'z' | 'set'>[];
  /** Height of the print, mm, and the line at which it ends. */
  height: number;
  last: number;
};

/** Width of the drawing in its own units. */
const WIDE = 100;

export function HeatAlong({ rows, rungs, height, last }: Props) {
  const along = heatAlong(rows, rungs, last);
  const told = along.flatMap(({ points }) => points);
  if (told.length === 0) return null;
  const now = told.at(-1)!;
  const targets = rungs.map(({ index, z, set }) => {
    const seen = along.find(({ rung }) => rung === index)?.points.at(-1)?.target;
    return { z, celsius: set.nozzle ?? seen ?? now.target };
  });
  const { low, high } = warmthScale([
    ...told.map(({ nozzle }) => nozzle),
    ...targets.map(({ celsius }) => celsius),
  ]);
  const x = (celsius: number): string => (((celsius - low) / (high - low)) * WIDE).toFixed(2);
  const y = (mm: number): string => (height - mm).toFixed(2);
  return (
    <figure
      className="pointer-events-none absolute inset-y-0 right-0 w-14 lg:w-36"
      aria-label={`The nozzle along the print: ${Math.round(now.nozzle)} °C measured, target ${Math.round(now.target)}`}
    >
      <svg
        viewBox={`0 0 ${WIDE} ${height}`}
        preserveAspectRatio="none"
        className="h-full w-full overflow-visible"
        aria-hidden
      >
        {targets.map(({ z, celsius }) => (
          <path
            key={z.from}
            d={`M${x(celsius)} ${y(z.from)}V${y(z.to)}`}
            className="stroke-neutral"
            strokeWidth={1.6}
            strokeDasharray="4 3"
            vectorEffect="non-scaling-stroke"
          />
        ))}
        {along.map(({ rung, points }) => (
          <path
            key={rung}
            d={points
              .map((one, i) => `${i === 0 ? 'M' : 'L'}${x(one.nozzle)} ${y(one.along)}`)
              .join('')}
            fill="none"
            className="stroke-primary"
            strokeWidth={2.6}
            strokeLinecap="round"
            strokeLinejoin="round"
            vectorEffect="non-scaling-stroke"
          />
        ))}
      </svg>
      <figcaption className="soft absolute inset-x-0 top-full flex justify-between gap-x-2 text-[13px] leading-6 whitespace-nowrap">
        <span>{low}</span>
        <span>{high} °C</span>
      </figcaption>
    </figure>
  );
}
