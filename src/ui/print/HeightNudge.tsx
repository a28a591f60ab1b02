'use client';
// The height of a first layer, nudged while it prints.
import { short, signed, tidy, TYPED_SLACK } from '@/core/numbers';
import { floorAt, type Floor } from '@/core/plan/nudged';
import { ActButton, type Outcome } from '../common/ActButton';

/** Steps of the buttons, mm. */
const STEPS = [0.05, 0.02];

type Props = {
  /** What was nudged so far, mm upward. */
  total: number;
  floors: readonly Floor[];
  line: number;
  nudge: (mm: number) => Promise<Outcome>;
};

export function HeightNudge({ total, floors, line, nudge }: Props) {
  const least = floorAt(floors, line) ?? 0;
  const low = STEPS.every((mm) => tidy(total - mm) < least - TYPED_SLACK);
  return (
    <section aria-label="Height while it prints" className="mt-5 max-w-md">
      <div className="grid grid-cols-2 gap-2">
        {[...STEPS, ...STEPS.map((mm) => -mm)].map((mm) => (
          <ActButton
            key={mm}
            className="btn-quiet h-16 text-xl font-semibold"
            needs="start"
            label={`Nozzle ${mm > 0 ? 'up' : 'down'} by ${short(Math.abs(mm))} mm`}
            act={() => nudge(mm)}
          >
            <span aria-hidden>{mm > 0 ? '▲' : '▼'}</span> {short(Math.abs(mm))}{' '}
            {mm > 0 ? 'up' : 'down'}
          </ActButton>
        ))}
      </div>
      <p className="mt-2">
        <b className="text-xl">{signed(total)} mm</b> nudged.{' '}
        <span className="soft">
          {low
            ? 'Any lower, and the last patch would dig into the bed.'
            : `It may go down to ${signed(least)}. What was nudged is taken back at the end.`}
        </span>
      </p>
    </section>
  );
}
