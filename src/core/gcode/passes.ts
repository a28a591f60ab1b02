/** How often each piece of filament goes through the feeding gear: a gear that bites one place too often grinds it flat. */

import type { Trace } from './trace';

/** Length of filament that is counted as one piece, mm: about one tooth of a gear. */
const PIECE = 0.1;
/** Most pieces that are counted; of more filament than a large spool holds they are longer. */
const MOST_PIECES = 4e6;

export type Passes = {
  /** Most passes of one piece, both ways counted. */
  most: number;
  /** Line of the file in which that piece passes for the last time; null where none passes. */
  line: number | null;
  tool: number;
};

/** Passes of a file, of the filament that has most of them. */
export function passesOf({ moves }: Trace): Passes {
  let worst: Passes = { most: 0, line: null, tool: 0 };
  for (const tool of new Set(moves.tool.subarray(0, moves.count))) {
    const found = passesOfTool(moves, tool);
    if (found.most > worst.most) worst = found;
  }
  return worst;
}

function passesOfTool(moves: Trace['moves'], tool: number): Passes {
  const feeds: { from: number; to: number; line: number }[] = [];
  // What is drawn back before anything was fed goes below 0.
  let [low, high, at] = [0, 0, 0];
  for (let i = 0; i < moves.count; i++) {
    const fed = moves.e[i]!;
    if (moves.tool[i] !== tool || fed === 0 || !Number.isFinite(fed)) continue;
    const to = at + fed;
    feeds.push({ from: Math.min(at, to), to: Math.max(at, to), line: moves.line[i]! });
    at = to;
    low = Math.min(low, at);
    high = Math.max(high, at);
  }
  const piece = Math.max(PIECE, (high - low) / MOST_PIECES);
  // A piece has passed when its middle has.
  const index = (place: number) => Math.round((place - low) / piece);
  // Where passes begin and end, added up at last: as much work for a long feed as for a short one.
  const changes = new Int32Array(index(high) + 2);
  for (const { from, to } of feeds) {
    changes[index(from)]!++;
    changes[index(to)]!--;
  }
  let [most, worst, passes] = [0, 0, 0];
  changes.forEach((change, i) => {
    passes += change;
    if (passes > most) [most, worst] = [passes, i];
  });
  const last = feeds.findLast(({ from, to }) => index(from) <= worst && worst < index(to));
  return { most, line: most > 0 ? (last?.line ?? null) : null, tool };
}
