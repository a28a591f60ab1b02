/** How far a nozzle may be nudged while it prints. */

import { short, tidy, TYPED_SLACK } from '../core/numbers';
import { floorAt, type Floor } from '../core/plan/nudged';
import { problem, type Problem } from '../core/result';
import type { Job } from './job';

/** Further up than this, mm, a first layer is laid into the air. */
const CEILING = 0.5;

/** Why a print is not nudged by so many mm; null where nothing is against it. */
export function againstNudge(
  { progress: { state, line, sure, nudged } }: Pick<Job, 'progress'>,
  floors: readonly Floor[] | null,
  mm: number,
): Problem | null {
  const total = tidy(nudged + mm);
  if (!floors)
    return problem(
      'nudge',
      'This print is no first-layer ladder.',
      'Nudge while its patches print.',
    );
  if (state !== 'printing')
    return problem('nudge', 'It does not print now.', 'Let it go on first, then nudge.');
  // Homing forgets nudges: before the first patch they would be counted and not be there.
  if (line <= (floors[0]?.line ?? 0))
    return problem('nudge', 'Its patches have not begun yet.', 'Wait for the first one.');
  const least = floorAt(floors, sure) ?? 0;
  if (mm < 0 && total < least - TYPED_SLACK)
    return problem(
      'nudge',
      `With ${short(total)} mm the lowest patch would dig into the bed: ${short(least)} mm is as low as it may be nudged.`,
      'Stop it, and print a ladder that goes less far down.',
    );
  return mm > 0 && total > CEILING
    ? problem('nudge', `${short(total)} mm up is in the air.`, 'Nudge it down.')
    : null;
}
