/** Answers that many acts give. */

import type { Answer } from '@/core/result';

export type { Answer };
export const done: Answer = { ok: true, value: null };

/** Something that is gone: deleted in another window, or an old link. */
export const gone = (what: string): Answer<never> => ({
  ok: false,
  problems: [
    { where: what, what: `This ${what} is not there any more.`, mend: 'Load the page again.' },
  ],
});
