/**
 * What a file that has printed well, or a settings report, tells about a machine: each thing with the line on
 * which it was seen, to be taken over one by one and never assumed.
 */

import type { Filament } from '../bench/bench';
import type { Machine } from '../bench/machine';
import type { Deep } from '../deep';
import { parseCommand } from '../dialect/command';
import type { Dialect } from '../dialect/dialect';
import type { Lines } from './lines';
import { blocks } from './told-blocks';
import { LIMITS } from './told-limits';
import { printedHeat, printedRetraction } from './told-print';
import { rows, stored } from './told-settings';
import { comment, sizes } from './told-sizes';
import type { Trace } from './trace';

/** One thing that can be taken over. */
export type Told = {
  id: string;
  group: 'commands' | 'limits' | 'heat' | 'sizes' | 'blocks';
  /** What is taken over, in words. */
  says: string;
  /** Line of the text, from 1, and the line itself. */
  line: number;
  text: string;
  change: { machine?: Deep<Machine>; filament?: Deep<Filament>; bore?: number };
  /** Why it cannot be taken over; it is told so that nobody looks for it in vain. */
  refused?: string;
};

/** Everything that some text tells; `trace` is null for a settings report, which has no moves. */
export function recognise(
  lines: Lines,
  trace: Trace | null,
  dialect: Dialect | null = null,
): Told[] {
  const found = new Map<string, Told>();
  /** The first sighting stands: later lines of a file may be part of a test. */
  const tell = (one: Told) => void (found.has(one.id) || found.set(one.id, one));
  lines.others((raw, line) => {
    const text = raw.replace(/^\s*(?:echo:|recv:|<|ok\b)\s*/i, '').trim();
    if (text === '') return;
    const seen = { line, text: raw.trim() };
    if (text.startsWith(';') || text.startsWith('#')) return comment(text, seen, tell);
    stored(text, seen, tell);
    const command = parseCommand(text);
    if (!command) return;
    rows(command, seen, tell);
    LIMITS[command.word]?.(command, seen, tell);
  });
  if (trace) {
    printedHeat(trace, lines, tell);
    printedRetraction(trace, lines, tell);
    sizes(trace, lines, tell);
    blocks(trace, lines, tell, dialect);
  }
  return [...found.values()].sort((a, b) => a.line - b.line);
}

export type Seen = { line: number; text: string };
export type Tell = (told: Told) => void;

/** Takes one thing over; what it does not speak of stays. */
export function taken<T extends object>(thing: T, change: Deep<T>): T {
  const next = { ...thing } as Record<string, unknown>;
  for (const [key, value] of Object.entries(change)) {
    const now = next[key];
    const both = isPlain(now) && isPlain(value);
    // Another form of bed or cornering replaces the whole.
    const other = both && ['shape', 'model'].some((tag) => tag in value && value[tag] !== now[tag]);
    next[key] = both && !other ? taken(now, value) : value;
  }
  return next as T;
}

const isPlain = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
