/** Where somebody marks the filament, to see how much of it goes in from then on. */

import { changeAt, type Trace } from './trace';

/** A wait this long, s, leaves time for it where a machine has no pause that it can be told. */
export const MARK_WAIT = 60;

/** Filament fed since the last pause, or wait that is long enough to mark it, mm; all of it without any. */
export function fedSinceMark(trace: Trace): number {
  const { moves, changes } = trace;
  let from = 0;
  for (let at = 0; at < changes.count; at++) {
    const { name, value } = changeAt(trace, at);
    if (name === 'pause' || (name === 'dwell' && value >= MARK_WAIT)) from = changes.move[at]!;
  }
  let fed = 0;
  for (let i = from; i < moves.count; i++) fed += moves.e[i]!;
  return fed;
}
