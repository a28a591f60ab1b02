/** What somebody is about to ask for, as the screen holds it, and how it becomes a wish. */

import type { Bench } from '@/core/bench/bench';
import type { Opened } from '@/core/graft/workbench';
import { Wish, type Climbs, type Mend, type Obstacle } from '@/core/graft/recipe';
import { evenValues, heightsOf, tableOf, tableText } from '@/core/graft/wishes';
import { usualClimb } from '@/core/ladders/graft/kind';
import { tidy } from '@/core/numbers';
import type { Way } from '@/core/plan/plan';
import { parseWith, type Result } from '@/core/result';

export type Mode = 'range' | 'table' | 'slope';
export type Draft = {
  mode: Mode;
  setting: Climbs;
  from: number;
  to: number;
  /** How much a value climbs with every mm. */
  perMm: number;
  heights: number[];
  /** Number of the candidate that the heights come from; null where somebody set them. */
  candidate: number | null;
  table: string;
  ways: Partial<Record<Climbs, Way>>;
  mends: Partial<Record<Obstacle, Mend>>;
  ownBlocks: boolean;
};

/** Sections where none were found, and how many to begin with. */
const GUESSED = 5;

export function draftOf(opened: Opened, before: Wish | null, bench: Bench): Draft {
  const found = opened.candidates[0];
  const heights = found
    ? heightsOf(found)
    : Array.from({ length: GUESSED }, (_, i) => tidy(Math.round((opened.height * i) / GUESSED)));
  const setting = opened.offered[0]?.setting ?? 'nozzle';
  const plain: Draft = {
    mode: 'range',
    setting,
    ...rangeOf(setting, bench, heights.length),
    perMm: 0.002,
    heights,
    candidate: found ? 0 : null,
    table: '',
    ways: {},
    mends: {},
    ownBlocks: false,
  };
  if (!before) return plain;
  const { rows, slope, ways, mends, ownBlocks } = before;
  const names = Object.keys(rows[0]!.set) as Climbs[];
  const lead = names[0] ?? setting;
  const known = opened.offered.some((one) => one.setting === lead);
  return {
    ...plain,
    heights: rows.map(({ from }) => from),
    candidate: null,
    ways,
    mends,
    ownBlocks,
    ...(known
      ? {
          mode: slope ? 'slope' : names.length > 1 ? 'table' : 'range',
          setting: lead,
          from: rows[0]!.set[lead] ?? plain.from,
          to: rows.at(-1)!.set[lead] ?? plain.to,
          perMm: slope?.perMm ?? plain.perMm,
          table: names.length > 1 ? tableText(rows) : '',
        }
      : {}),
  };
}

export function rangeOf(setting: Climbs, bench: Bench, count: number) {
  const { from, to } = usualClimb(setting, bench, count);
  return { from, to };
}

/** Values between the ends; one for each section. */
export const valuesOf = (
  { setting, from, to }: Pick<Draft, 'setting' | 'from' | 'to'>,
  count: number,
): number[] => evenValues(setting, from, to, count);

export function toWish(draft: Draft, opened: Opened, bench: Bench): Result<Wish> {
  const { mode, setting, heights, perMm, mends, ownBlocks } = draft;
  const ways = Object.fromEntries(
    opened.offered.map((one) => [one.setting, draft.ways[one.setting] ?? one.ways[0]!]),
  );
  const rest = { ways, mends, ownBlocks };
  if (mode === 'table') {
    const rows = tableOf(draft.table, bench);
    return rows.ok ? parseWith(Wish, { rows: rows.value, ...rest }, 'table') : rows;
  }
  if (mode === 'slope')
    return parseWith(
      Wish,
      {
        rows: [{ from: heights[0] ?? 0, set: { [setting]: draft.from } }],
        slope: { setting, perMm },
        ...rest,
      },
      'sections',
    );
  const values = valuesOf(draft, heights.length);
  const rows = heights.map((from, i) => ({ from, set: { [setting]: values[i]! } }));
  return parseWith(Wish, { rows, ...rest }, 'sections');
}

/** Heights at which what is shown begins. */
export const heightsFor = (draft: Draft, wish: Result<Wish>): number[] =>
  draft.mode !== 'range' && wish.ok ? wish.value.rows.map(({ from }) => from) : draft.heights;

/** Heights that somebody moved; a table says them itself. */
export function withHeights(draft: Draft, heights: number[]): Partial<Draft> {
  if (draft.mode === 'range') return { heights, candidate: null };
  // Of a value that climbs with every layer only the foot is shown: the other sections wait.
  if (draft.mode === 'slope') {
    const [foot = 0] = heights;
    const above = draft.heights.slice(1).filter((one) => one > foot);
    return { heights: [foot, ...above], candidate: null };
  }
  const lines = draft.table.split('\n');
  let row = 0;
  const table = lines.map((line, i) => {
    if (i === 0 || line.trim() === '') return line;
    const height = heights[row++];
    return height === undefined ? line : line.replace(/^[^,;\t]*/, String(height));
  });
  return { table: table.join('\n') };
}

export function withCandidate(draft: Draft, opened: Opened, index: number): Partial<Draft> {
  const found = opened.candidates[index]!;
  return {
    mode: draft.mode === 'table' ? 'range' : draft.mode,
    heights: heightsOf(found),
    candidate: index,
  };
}
