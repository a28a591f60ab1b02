'use client';
/**
 * An act on the server whose answer may be lost. What became of it is looked up, at once or before the next press, so
 * that nothing is done twice and nothing is said that is not known; nothing that was typed is thrown away.
 */

import { unstable_rethrow } from 'next/navigation';
import { problem, type Problem } from '@/core/result';
import { lastPress, otherStore } from './own-fetch';
import { actName } from './names';
import { answered, beginPress, endsOf, leftUnsent, unanswered, type Fate } from './presses';

/** What an act on the server answers. */
export type Outcome = { ok: true } | { ok: false; problems: Problem[] };

const said = (what: string, mend: string): Problem => ({
  ...problem('connection', what, mend),
  label: 'No answer',
});
const MAY_BE_DONE = said(
  'The program did not answer, so this may have been done.',
  'See whether it still runs. Before anything is done again it is asked what became of this; what you typed is still here.',
);
const NEVER_CAME = said(
  'The program did not answer: this did not reach it, so it was not done.',
  'Press again. What you typed is still here.',
);
const IT_CAME = said(
  'This reached the program; only its answer did not come back.',
  'What you see now is the result.',
);
const CUT = said(
  'The program ended in the middle of this: it may have been done.',
  'Look at what stands here now, then press again if it was not.',
);
const OTHER_DATA: Problem = {
  ...problem(
    'store',
    'The program holds other data now than this page shows, so this was not done.',
    'Load the page again.',
  ),
  label: 'Other data',
};

/** The press of which nobody knows yet what became. */
let open: string | null = null;

/** Told when a page should show how things stand now. */
export const LOOK_AGAIN = 'ash-look-again';

/** What became of a press, as the program tells it; null where it does not. */
async function fateOf(name: string): Promise<Fate | null> {
  try {
    const got = await fetch(`/pressed/${name}`, { cache: 'no-store' });
    return got.ok ? ((await got.json()) as { state: Fate }).state : null;
  } catch {
    return null;
  }
}

/** What is known of the open press; null where there is none, or it was never done. */
async function settled(): Promise<Problem | null> {
  if (open === null) return null;
  const state = await fateOf(open);
  if (state === null || state === 'begun') return MAY_BE_DONE;
  answered(open);
  open = null;
  if (state === 'barred') return null;
  window.dispatchEvent(new Event(LOOK_AGAIN));
  return state === 'cut' ? CUT : IT_CAME;
}

const LEFT_BEHIND = said(
  'What you pressed last on the page before did not reach the program, so it was not done.',
  'Go back and press again.',
);
const AGAIN_MS = 700;

/** Sees to presses of the page before this one. @returns what is told of them; null where all were done */
export async function settleLeft(): Promise<Problem | null> {
  const unsent = leftUnsent();
  const ends = await endsOf(unanswered(), {
    fateOf,
    wait: () => new Promise((resolve) => setTimeout(resolve, AGAIN_MS)),
  });
  if (ends.some((one) => one !== 'barred')) window.dispatchEvent(new Event(LOOK_AGAIN));
  if (ends.includes('cut')) return CUT;
  return unsent || ends.includes('barred') ? LEFT_BEHIND : null;
}

/** What is told of a press whose answer did not come. */
export async function afterNoAnswer(press: string | null): Promise<Problem> {
  if (otherStore() !== null) return OTHER_DATA;
  open = press;
  return (await settled()) ?? NEVER_CAME;
}

/** @returns what the act answered; a problem in words when no answer came */
export async function attempt<T extends Outcome | void>(
  act: () => Promise<T>,
): Promise<T | { ok: false; problems: Problem[] }> {
  const over = beginPress(actName());
  try {
    // What was pressed before comes first.
    const before = await settled();
    if (before) return { ok: false, problems: [before] };
    return await act();
  } catch (error) {
    // Going to another page is told by throwing.
    unstable_rethrow(error);
    return { ok: false, problems: [await afterNoAnswer(lastPress())] };
  } finally {
    over();
  }
}
