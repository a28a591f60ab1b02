/** Proves a ladder made of a sliced file against its own recipe: it is taken out, and made again. */

import type { Remark } from '../gcode/remark';
import { readBytes } from '../gcode/read';
import type { Plan } from '../plan/plan';
import { VERSION } from '../version';
import { graft } from './graft';
import { sourceOf } from './source';
import { ungraft } from './ungraft';

const stop = (code: string, line: number | null, what: string): Remark => ({
  grade: 'stop',
  code,
  line,
  count: 1,
  what,
  mend: 'Generate the file again; something changed it on the way.',
});

/** @returns what is wrong with it; nothing for a file that carries no recipe */
export function proveGraft(bytes: Uint8Array, plan: Plan | null): Remark[] {
  if (plan?.kind !== 'graft') return [];
  const taken = ungraft(bytes);
  if (!taken.ok) return [stop('graft-changed', null, taken.problems[0]!.what)];
  const { bytes: original, recipe } = taken.value;
  // An older program may have put things elsewhere: what its recipe says is held against the sum alone.
  if (recipe.program !== VERSION) return [];
  const source = sourceOf(recipe.original.name, original, readBytes(original, plan.bench.machine));
  const again = graft(source, recipe.wish, plan.bench);
  if (!again.ok) return [stop('graft-changed', null, again.problems[0]!.what)];
  const at = firstDifference(bytes, again.value.bytes);
  return at === null
    ? []
    : [stop('graft-changed', at, `Line ${at} is not what its recipe makes of the original.`)];
}

/** Line, from 1, at which two files differ first; null where they do not. */
function firstDifference(a: Uint8Array, b: Uint8Array): number | null {
  let line = 1;
  const common = Math.min(a.length, b.length);
  for (let i = 0; i < common; i++) {
    if (a[i] !== b[i]) return line;
    if (a[i] === 10) line++;
  }
  return a.length === b.length ? null : line;
}
