/** What is said of a machine that may be hot. */

import type { Owed } from './link-state';

/** @param at when it was, as a clause: "at 14:02" */
export function owedSaid({ name, why, state }: Owed, at: string): string {
  const because = `${why} ${at}`;
  switch (state) {
    case 'unheard':
      return `${name} may still be hot: ${because}. It is cooled when it answers. Switch it off by hand if nobody is there.`;
    case 'told':
      return `${name} is told to cool: ${because}. Its temperatures have still to fall.`;
    case 'stuck':
      return `${name} was told to cool (${because}), but its temperatures do not fall. Switch it off by hand.`;
  }
}

/** "at 14:02", and the day where it was another. @param since ISO */
export function whenSaid(since: string, nowMs: number): string {
  const at = new Date(since);
  const time = at.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
  const sameDay = at.toDateString() === new Date(nowMs).toDateString();
  return sameDay
    ? `at ${time}`
    : `on ${at.toLocaleDateString('en-GB', { day: 'numeric', month: 'long' })} at ${time}`;
}
