/** Where the print itself begins: what is purged before it belongs to the start of the file. */

import { growBox, type Box } from '../bench/bed';
import { MOVE, type Trace } from './trace';

/** Strokes at the head of a file that may be a purge; no purge is drawn with more. */
export const MOST_PURGE = 16;
/** A purge lies beside the print by more than this, mm, … */
const APART = 3;
/** … or is laid with at least this many times the plastic a millimetre of the print. */
const FAT = 2;

/**
 * First stroke of the print itself, as an index of `moves`; −1 when nothing is laid. A line at the head of the
 * file that lies beside everything that follows, or is far fatter, is a purge. What goes round the print, such as a
 * skirt, is part of it.
 */
export function firstStroke({ moves }: Pick<Trace, 'moves'>): number {
  const lead: number[] = [];
  const body = emptyBox();
  const sections: number[] = [];
  let strokes = 0;
  for (let i = 1; i < moves.count; i++) if (moves.kind[i] === MOVE.extrude) strokes++;
  const most = Math.min(MOST_PURGE, strokes >> 1);
  const every = Math.max(1, Math.floor(strokes / SAMPLE));
  let seen = 0;
  for (let i = 1; i < moves.count; i++) {
    if (moves.kind[i] !== MOVE.extrude) continue;
    if (lead.length < most) {
      lead.push(i);
      continue;
    }
    include(body, moves, i);
    if (seen++ % every !== 0) continue;
    const section = sectionOf(moves, i);
    if (section > 0) sections.push(section);
  }
  if (strokes === 0) return -1;
  const after = firstAfter(moves, lead.at(-1) ?? 0);
  sections.sort((a, b) => a - b);
  const usual = sections[sections.length >> 1] ?? Infinity;
  for (const path of pathsOf(moves, lead)) {
    const box = emptyBox();
    for (const i of path) include(box, moves, i);
    const beside = !meets(growBox(body, APART), box);
    const fat = path.every((i) => sectionOf(moves, i) >= FAT * usual);
    if (!(beside || fat)) return path[0]!;
  }
  return after;
}

/** Strokes looked at to learn how thick a usual one is. */
const SAMPLE = 2000;

function firstAfter({ kind, count }: Trace['moves'], from: number): number {
  for (let i = from + 1; i < count; i++) if (kind[i] === MOVE.extrude) return i;
  return from;
}

/** Strokes that follow each other without a travel between them. */
function pathsOf({ kind }: Trace['moves'], strokes: readonly number[]): number[][] {
  const paths: number[][] = [];
  for (const i of strokes) {
    const last = paths.at(-1);
    const before = last?.at(-1);
    let joined = before !== undefined;
    for (let k = (before ?? i) + 1; k < i; k++) if (kind[k] === MOVE.travel) joined = false;
    if (joined) last!.push(i);
    else paths.push([i]);
  }
  return paths;
}

/** Filament a millimetre of way; a blob without way counts as fat. */
function sectionOf({ x, y, e }: Trace['moves'], i: number): number {
  const length = Math.hypot(x[i]! - x[i - 1]!, y[i]! - y[i - 1]!);
  return length > 0 ? e[i]! / length : Infinity;
}

const emptyBox = (): Box => ({ minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity });

function include(box: Box, { x, y }: Trace['moves'], i: number): void {
  for (let k = i - 1; k <= i; k++) {
    if (x[k]! < box.minX) box.minX = x[k]!;
    if (x[k]! > box.maxX) box.maxX = x[k]!;
    if (y[k]! < box.minY) box.minY = y[k]!;
    if (y[k]! > box.maxY) box.maxY = y[k]!;
  }
}

const meets = (a: Box, b: Box): boolean =>
  a.minX <= b.maxX && b.minX <= a.maxX && a.minY <= b.maxY && b.minY <= a.maxY;
