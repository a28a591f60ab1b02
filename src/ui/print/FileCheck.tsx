// What the file does to the machine, so that nobody sends what they cannot see through.
import type { ReactNode } from 'react';
import type { Bench } from '@/core/bench/bench';
import { bedBox } from '@/core/bench/bed';
import type { Audit } from '@/core/gcode/audit';
import type { Times } from '@/core/motion/times';
import { short } from '@/core/numbers';
import { duration } from '../common/format';
import { Findings } from './Findings';

type Props = {
  audit: Audit;
  times: Times;
  bench: Bench;
  lineAs: (line: number) => ReactNode;
  /** What stands below, such as the user's own blocks. */
  children?: ReactNode;
};

export function FileCheck({ audit, times, bench, lineAs, children }: Props) {
  const { findings, box, z, grams, filament, hottest } = audit;
  const confirmed = audit.rungs.filter(({ ok }) => ok).length;
  const facts: [string, string][] = [
    [
      'Time',
      `${duration(times.laying + times.travel)}, plus about ${duration(times.heating + times.homing)} for heating and homing${times.dwell > 0 ? `, ${duration(times.dwell)} of pauses` : ''}`,
    ],
    ['Filament', `${short(grams, 1)} g, ${short(filament / 1000, 2)} m of filament`],
    ['Heat', `nozzle up to ${short(hottest.nozzle)} °C, bed to ${short(hottest.bed)} °C`],
    [
      'Position',
      box
        ? `x ${short(box.minX, 1)} to ${short(box.maxX, 1)}, y ${short(box.minY, 1)} to ${short(box.maxY, 1)} mm, ${short(z!.high, 1)} mm tall`
        : 'nothing is printed',
    ],
    ...(audit.rungs.length > 0
      ? ([
          [
            'Rungs',
            `${confirmed} of ${audit.rungs.length} confirmed: each value was read back from the file`,
          ],
        ] as [string, string][])
      : []),
  ];
  return (
    <section aria-label="File check">
      <div className="flex flex-wrap gap-6">
        <dl className="min-w-[min(100%,20rem)] flex-1">
          {facts.map(([name, text]) => (
            <div key={name} className="border-base-300 flex gap-4 border-b py-1.5">
              <dt className="text-neutral w-20 shrink-0">{name}</dt>
              <dd>{text}</dd>
            </div>
          ))}
        </dl>
        {box && <BedDrawing bench={bench} box={box} />}
      </div>
      <Findings findings={findings} lineAs={lineAs} />
      {children}
    </section>
  );
}

/** The bed from above with the print's place on it, to scale; the front is below. */
function BedDrawing({ bench, box }: { bench: Bench; box: NonNullable<Audit['box']> }) {
  const { bed } = bench.machine;
  const { minX, minY, maxX, maxY } = bedBox(bed);
  const [width, depth] = [maxX - minX, maxY - minY];
  return (
    <svg
      viewBox={`${-2} ${-2} ${width + 4} ${depth + 4}`}
      className="h-36 w-36 shrink-0"
      role="img"
      aria-label="Place on the bed, seen from above"
    >
      {bed.shape === 'round' ? (
        <circle
          cx={width / 2}
          cy={depth / 2}
          r={width / 2}
          className="fill-base-200 stroke-secondary"
          strokeWidth={2}
        />
      ) : (
        <rect
          width={width}
          height={depth}
          rx={3}
          className="fill-base-200 stroke-secondary"
          strokeWidth={2}
        />
      )}
      <rect
        x={box.minX - minX}
        y={maxY - box.maxY}
        width={box.maxX - box.minX}
        height={box.maxY - box.minY}
        className="fill-primary"
      />
    </svg>
  );
}
