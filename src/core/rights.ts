/**
 * What a device that was let in may do beyond looking, scoring, photographing, watching and stopping a print: only
 * what somebody allowed at the computer.
 */

import { z } from 'zod';
import { problem, type Problem } from './result';

export const RIGHTS = ['change', 'start'] as const;
export const Right = z.enum(RIGHTS);
export type Right = z.infer<typeof Right>;

/** What each allows, as one says it after "may". */
export const RIGHT_WORDS: Record<Right, string> = {
  change: 'archive, import, export, and change machines and filaments',
  start: 'heat the machine and start prints',
};

export const mayNot = (right: Right): Problem => ({
  ...problem(
    'device',
    `This device may not ${right === 'change' ? 'archive or change things' : 'heat or start anything'}.`,
    'Do it at the computer, or allow it there under Phones.',
  ),
  label: 'Not allowed here',
});
