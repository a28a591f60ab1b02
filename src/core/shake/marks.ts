/** What a shake file did when: the way from a moment of a record to the frequency that was put in. */

import { z } from 'zod';
import { parseWith, fail, problem, type Result } from '../result';

const finite = z.number();

/** One run through all frequencies along one direction. Times are s from the beginning of its knock. */
const Sweep = z.object({
  /** Direction on the bed, of length 1. */
  along: z.object({ x: finite, y: finite }),
  /** When each frequency begins, s, and the frequency, Hz, in order. */
  steps: z
    .array(z.tuple([finite, z.number().positive()]))
    .min(1)
    .max(4000),
  /** When the last one ends, s. */
  ends: z.number().positive(),
  /** Knock of this sweep after that of the first one, s. */
  after: z.number().min(0),
});
export type Sweep = z.infer<typeof Sweep>;

export const SHAKE_AXES = ['x', 'y', 'diagonals'] as const;
export type ShakeAxis = (typeof SHAKE_AXES)[number];

export const ShakeMarks = z.object({
  format: z.literal('ash-ladder/shake'),
  version: z.literal(1),
  axis: z.enum(SHAKE_AXES),
  /** Peak acceleration of every stroke, mm/s². */
  acceleration: z.number().positive(),
  /** How long a knock takes, and how long the head then stands before it starts, s. */
  knock: z.number().positive(),
  rest: z.number().positive(),
  sweeps: z.array(Sweep).min(1).max(2),
});
export type ShakeMarks = z.infer<typeof ShakeMarks>;

/** How each line that carries them begins. */
export const SHAKE_MARK = ';@shake ';

/** Reads the marks that a shake file carries. */
export function marksIn(text: string): Result<ShakeMarks> {
  const pieces = text
    .split(/\r?\n/)
    .filter((line) => line.startsWith(SHAKE_MARK))
    .map((line) => line.slice(SHAKE_MARK.length));
  let data: unknown = null;
  try {
    data = JSON.parse(pieces.join(''));
  } catch {
    return fail(
      problem(
        'file',
        pieces.length === 0
          ? 'This is no shake file: it carries no marks.'
          : 'Its marks are not complete.',
        'Give the file that Ash Ladder made to shake with.',
      ),
    );
  }
  return parseWith(ShakeMarks, data, 'marks');
}
