'use client';
/** An act on the server that may not reach it: what went wrong comes back in words, and nothing is thrown away. */

import { unstable_rethrow } from 'next/navigation';
import { problem, type Problem } from '@/core/result';

/** What an act on the server answers. */
export type Outcome = { ok: true } | { ok: false; problems: Problem[] };

export const NO_ANSWER: Problem = {
  ...problem(
    'connection',
    'The program did not answer, so this was not done.',
    'See whether it still runs, then press again. What you typed is still here.',
  ),
  label: 'No answer',
};

/** @returns what the act answered; a problem in words when it could not be reached */
export async function attempt<T extends Outcome | void>(
  act: () => Promise<T>,
): Promise<T | { ok: false; problems: Problem[] }> {
  try {
    return await act();
  } catch (error) {
    // Going to another page is told by throwing.
    unstable_rethrow(error);
    return { ok: false, problems: [NO_ANSWER] };
  }
}
