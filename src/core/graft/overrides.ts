/** What the overrides by percent of a file (M220, M221) do to its moves. */

import { CHANGES } from '../dialect/changes';
import type { Trace } from '../gcode/trace';

type Override = 'flow' | 'pace';

/** Makes a function move → factor in force; asked in file order. */
export function overrideAt({ changes }: Trace, name: Override): (move: number) => number {
  const code = CHANGES.indexOf(name);
  let [at, now] = [0, 1];
  return (move) => {
    for (; at < changes.count && changes.move[at]! <= move; at++)
      if (changes.code[at] === code) now = changes.value[at]!;
    return now > 0 ? now : 1;
  };
}

/**
 * Makes a function move → how much of its feed or speed is left once the file no longer changes the override from a
 * line on; asked in file order.
 */
export function overrideLeft(trace: Trace, from: number, name: Override): (move: number) => number {
  const { changes, moves } = trace;
  const code = CHANGES.indexOf(name);
  let stays = 1;
  for (let i = 0; i < changes.count && changes.line[i]! < from; i++)
    if (changes.code[i] === code) stays = changes.value[i]!;
  const own = overrideAt(trace, name);
  return (move) => (moves.line[move]! < from ? 1 : stays / own(move));
}
