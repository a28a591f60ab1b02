/** Confirms rung by rung the value that is really in force while plastic is laid there. */

import type { Rung } from '../deposit/plan';
import { rungFinder } from './rungs';
import { CHANGES, MOVE, type Trace } from './trace';

export type Confirmed = {
  index: number;
  setting: string;
  wanted: number;
  /** Distinct values in force over the rung's plastic, in order of appearance. */
  seen: number[];
  /** Line of the command that set the value; null when none did. */
  line: number | null;
  /** Line of the first stroke of the rung. */
  firstStroke: number | null;
  ok: boolean;
};

/** A rung as the plan asks for it. */
export type AskedRung = Pick<Rung, 'index' | 'set' | 'z'>;

export function confirmRungs(trace: Trace, asked: readonly AskedRung[]): Confirmed[] {
  const rungAt = rungFinder(asked);
  const rows = asked.flatMap(({ index, set }) =>
    Object.entries(set).map(([setting, wanted]): Confirmed => ({
      index,
      setting,
      wanted: wanted!,
      seen: [],
      line: null,
      firstStroke: null,
      ok: false,
    })),
  );
  const ofRung = asked.map(({ index }) => rows.filter((row) => row.index === index));
  const inForce = new Map<string, { value: number; line: number }>();
  const { moves, changes } = trace;
  let at = 0;
  for (let i = 0; i < moves.count; i++) {
    for (; at < changes.count && changes.move[at]! <= i; at++) {
      inForce.set(CHANGES[changes.code[at]!]!, {
        value: changes.value[at]!,
        line: changes.line[at]!,
      });
    }
    if (moves.kind[i] !== MOVE.extrude) continue;
    const rung = rungAt(moves.z[i]!);
    if (rung === -1) continue;
    for (const row of ofRung[rung]!) {
      const now = inForce.get(row.setting);
      if (!now) continue;
      row.firstStroke ??= moves.line[i]!;
      if (row.seen.at(-1) !== now.value) row.seen.push(now.value);
      row.line ??= now.line;
    }
  }
  for (const row of rows) row.ok = row.seen.length === 1 && row.seen[0] === row.wanted;
  return rows;
}
