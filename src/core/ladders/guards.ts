/** Guards that several kinds share. */

import { boxOnBed, bedBox, type Box } from '../bench/bed';
import type { Bed } from '../bench/machine';
import { short, tidy } from '../numbers';
import { FEWEST_RUNGS, MOST_STEPS } from '../plan/limits';
import { climb, isWhole, nearestWhole, type Range } from './climb';
import type { Grade, SpecPatch, Warning } from './types';

export const warn = (
  grade: Grade,
  code: string,
  where: string,
  what: string,
  mend: string,
): Warning => ({ grade, code, where, what, mend });

/** Whole steps only: otherwise the two nearest ranges that are, to be taken with one press. */
export function wholeSteps(range: Range, unit: string): Warning[] {
  const warnings: Warning[] = [];
  if (!isWhole(range)) {
    const [shorter, longer] = nearestWhole(range);
    const say = ({ from, to }: Range) => `${short(from)} to ${short(to)} ${unit}`;
    warnings.push({
      ...warn(
        'warning',
        'not-whole',
        'step',
        `Steps of ${short(range.step)} do not fit ${say(range)} exactly; the last rung would be ${short(shorter.to)} ${unit}.`,
        `Whole steps: ${say(shorter)}, or ${say(longer)}.`,
      ),
      offers: [shorter.to, longer.to].map((to) => ({
        label: `End at ${short(to)}`,
        patch: { to },
      })),
    });
  }
  const count = climb(range).length;
  if (count < FEWEST_RUNGS) warnings.push(tooFew(range, count, unit));
  if (count > MOST_STEPS) {
    warnings.push(
      warn(
        'stop',
        'too-many-rungs',
        'step',
        `${count} rungs were asked for; a ladder has at most ${MOST_STEPS}.`,
        'Choose a larger step or a shorter range.',
      ),
    );
  }
  return warnings;
}

/** A finding needs a few rungs: finer steps where there is a range, and a range where there is none. */
function tooFew(range: Range, count: number, unit: string): Warning {
  const { from, to, step } = range;
  const patches: SpecPatch[] =
    from === to
      ? [{ to: tidy(from + 4 * step) }, { to: tidy(from - 4 * step) }]
      : [{ step: tidy(Math.abs(to - from) / 4) }];
  return {
    ...warn(
      'warning',
      'too-few-rungs',
      'step',
      `${short(from)} to ${short(to)} ${unit} by ${short(step)} makes ${count === 1 ? 'one rung' : `${count} rungs`}; finding a value takes at least ${FEWEST_RUNGS}.`,
      'Choose a wider range or a finer step.',
    ),
    offers: patches.map((patch) => ({
      label:
        patch.to === undefined
          ? `Step ${short(patch.step!)} ${unit}`
          : `End at ${short(patch.to)} ${unit}`,
      patch,
    })),
  };
}

/** Everything that is laid must lie on the bed, the rim left free. */
export function onBed(box: Box, bed: Bed): Warning[] {
  if (boxOnBed(bed, box)) return [];
  const size = `${short(box.maxX - box.minX, 1)} × ${short(box.maxY - box.minY, 1)} mm`;
  const room = bedBox(bed);
  const shape =
    bed.shape === 'round'
      ? `a round bed of ${short(bed.diameter, 0)} mm`
      : `a bed of ${short(room.maxX - room.minX, 0)} × ${short(room.maxY - room.minY, 0)} mm`;
  return [
    warn(
      'stop',
      'off-bed',
      'place',
      `With skirt and prime line the print takes ${size}; at this place it does not fit ${shape}.`,
      'Move it toward the middle, or choose fewer skirt loops, a narrower brim or a shorter span.',
    ),
  ];
}
