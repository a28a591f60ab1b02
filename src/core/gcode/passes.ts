/** How often each piece of filament goes through the feeding gear: a gear that bites one place too often grinds it flat. */

import type { Trace } from './trace';

/** Length of filament that is counted as one piece, mm: about one tooth of a gear. */
const PIECE = 0.1;

export type Passes = {
  /** Most passes of one piece, both ways counted. */
  most: number;
  /** Line of the file in which that piece passes for the last time; null where none passes. */
  line: number | null;
  tool: number;
  /** Passes that one piece in twenty has or more. */
  twentieth: number;
};

/** Passes of a file, of the filament that has most of them. */
export function passesOf({ moves }: Trace): Passes {
  let worst: Passes = { most: 0, line: null, tool: 0, twentieth: 0 };
  const tools = new Set(moves.tool.subarray(0, moves.count));
  for (const tool of tools) {
    const found = passesOfTool(moves, tool);
    if (found.most > worst.most) worst = found;
  }
  return worst;
}

function passesOfTool(moves: Trace['moves'], tool: number): Passes {
  // What is drawn back before anything was fed goes below 0.
  let low = 0;
  let high = 0;
  let at = 0;
  for (let i = 0; i < moves.count; i++) {
    if (moves.tool[i] !== tool) continue;
    at += moves.e[i]!;
    low = Math.min(low, at);
    high = Math.max(high, at);
  }
  const first = Math.floor(low / PIECE);
  const counts = new Uint16Array(Math.max(0, Math.ceil(high / PIECE) - first) + 1);
  at = 0;
  let most = 0;
  let line: number | null = null;
  for (let i = 0; i < moves.count; i++) {
    if (moves.tool[i] !== tool || moves.e[i] === 0) continue;
    const to = at + moves.e[i]!;
    // A piece has passed when its middle has.
    const from = Math.round(Math.min(at, to) / PIECE) - first;
    const end = Math.round(Math.max(at, to) / PIECE) - first;
    for (let piece = from; piece < end; piece++) {
      const passed = ++counts[piece]!;
      if (passed >= most) {
        most = passed;
        line = moves.line[i]!;
      }
    }
    at = to;
  }
  const used = counts.filter((count) => count > 0).sort();
  return { most, line, tool, twentieth: used[Math.floor(used.length * 0.95)] ?? 0 };
}
