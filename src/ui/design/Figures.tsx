// Time, plastic and reach of the ladder that would be made.
import { short } from '@/core/numbers';
import type { DesignView } from '@/core/view/designer';
import { duration } from '../common/format';

type Props = {
  view: DesignView | null;
  dimmed: boolean;
  /** They are those of the file before; its successor is being made. */
  late: boolean;
};

export function Figures({ view, dimmed, late }: Props) {
  const figures = view ? figuresOf(view) : UNKNOWN;
  return (
    <dl
      aria-busy={late || !view}
      className={`border-base-300 my-5 grid grid-cols-3 gap-4 border-y py-4 transition-opacity ${
        dimmed ? 'opacity-40' : late && view ? 'opacity-50 delay-200' : ''
      }`}
    >
      {figures.map(([value, note]) => (
        <div key={note} className="flex flex-col-reverse justify-end">
          <dt className={`soft mt-1 ${view ? '' : 'invisible'}`}>{note}</dt>
          <dd className="figure max-sm:text-2xl">{value}</dd>
        </div>
      ))}
    </dl>
  );
}

/** Words as long as those that come, so that nothing moves when they do. */
const UNKNOWN = [
  ['…', 'plus about 4 min for heating and homing'],
  ['…', '0.00 m of filament'],
  ['…', 'average; 00 % at full speed'],
] as const;

function figuresOf({ times, grams, filament, reach, asksSpeed }: DesignView) {
  return [
    [
      duration(times.laying + times.travel),
      `plus about ${duration(times.heating + times.homing)} for heating and homing`,
    ],
    [`${short(grams, 1)} g`, `${short(filament / 1000, 2)} m of filament`],
    [
      reach.speed > 0 ? `${short(reach.speed, 0)} mm/s` : '–',
      asksSpeed && reach.speed > 0
        ? `average; ${Math.round(reach.share * 100)} % at full speed`
        : 'average printing speed',
    ],
  ] as const;
}
