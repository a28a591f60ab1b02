/** Confirms rung by rung the value that is really in force while plastic is laid there. */

import { z } from 'zod';
import type { Rung, Way } from '../plan/plan';
import { settingInfo, type Setting, type Values, SettingName } from '../bench/settings';
import { tidy } from '../numbers';
import { rungFinder } from './rungs';
import { CHANGES, type Change } from '../dialect/changes';
import { MOVE, type Trace } from './trace';
import { allDrawn, seenInSliced } from './sliced-witness';
import { retractionsIn, seenInMoves, type Expected } from './witness';

export const Confirmed = z.object({
  index: z.number(),
  setting: SettingName,
  wanted: z.number(),
  /** Distinct values in force over the rung's plastic, in order of appearance. */
  seen: z.array(z.number()),
  /** Line of the command that set the value; null when none did. */
  line: z.number().nullable(),
  /** Line of the first stroke of the rung. */
  firstStroke: z.number().nullable(),
  ok: z.boolean(),
});
export type Confirmed = z.infer<typeof Confirmed>;

/** A rung as the plan asks for it. */
export type AskedRung = Pick<Rung, 'index' | 'set' | 'z' | 'boxes' | 'slope' | 'was'> &
  Partial<Pick<Rung, 'at'>>;

/** A ladder as its plan asks for it. */
export type Asked = {
  rungs: readonly AskedRung[];
  held: Values;
  /** What climbs first; null where nothing does. */
  lead: Setting | null;
  /** Of a sliced file: how each setting is set where there is more than one way. */
  ways?: Partial<Record<Setting, Way>>;
  expected: Expected;
  /** Filament that is to be fed once it is marked, mm; left out where none is measured. */
  fed?: number;
};

/** What is asked of a file that carries no plan. */
export const NOTHING_ASKED: Asked = {
  rungs: [],
  held: {},
  lead: null,
  expected: { layerHeight: 0.2, bead: 0, strand: 0, now: {} },
};

/** Commands carry five decimals at most. */
const SAME_COMMAND = 1e-5;
const sameAs = (setting: Setting): number => SAME_COMMAND + (settingInfo(setting).written ?? 0) / 2;

export function confirmRungs(trace: Trace, asked: Asked): Confirmed[] {
  const { rungs, held, expected, ways } = asked;
  if (rungs.length === 0) return [];
  const changesOf = (setting: Setting): readonly Change[] | undefined => {
    const { changes: own, override } = settingInfo(setting);
    // Only a file that somebody sliced is set by percent.
    return ways?.[setting] === 'command' && override ? [override.change] : own;
  };
  const rungOf = rungFinder(rungs, trace.moves);
  const rows = rungs.map(({ index, set, slope = {}, z }) => ({
    slope,
    middle: (z.from + z.to) / 2,
    rows: (Object.entries({ ...held, ...set }) as [Setting, number][]).map(
      ([setting, wanted]): Confirmed => ({
        index,
        setting,
        wanted,
        seen: [],
        line: null,
        firstStroke: null,
        ok: false,
      }),
    ),
  }));
  const strokes = rungs.map((): number[] => []);
  const stated = new Map<Change, { value: number; line: number }>();
  const { moves, changes } = trace;
  let at = 0;
  for (let i = 0; i < moves.count; i++) {
    for (; at < changes.count && changes.move[at]! <= i; at++) {
      stated.set(CHANGES[changes.code[at]!]!, {
        value: changes.value[at]!,
        line: changes.line[at]!,
      });
    }
    if (moves.kind[i] !== MOVE.extrude) continue;
    const rung = rungOf(i);
    if (rung === -1) continue;
    if (i > 0) strokes[rung]!.push(i);
    const { rows: ofRung, slope, middle } = rows[rung]!;
    for (const row of ofRung) {
      row.firstStroke ??= moves.line[i]!;
      for (const name of changesOf(row.setting) ?? []) {
        const now = stated.get(name);
        if (!now) continue;
        row.line ??= now.line;
        // A value that climbs within its rung is told as what it comes to in the middle.
        const perMm = slope[row.setting];
        const off =
          now.value -
          (perMm ? Math.max(0, row.wanted + perMm * (moves.z[i]! - middle)) : row.wanted);
        const seen = Math.abs(off) <= sameAs(row.setting) ? row.wanted : tidy(row.wanted + off);
        if (!row.seen.includes(seen)) row.seen.push(seen);
      }
    }
  }
  const drawn = ways ? allDrawn(trace, rungOf) : retractionsIn(trace, rungOf);
  rows.forEach(({ rows: ofRung }, rung) => {
    for (const row of ofRung) {
      const { setting } = row;
      const byCommand = changesOf(setting) !== undefined;
      const place = {
        trace,
        rung: rungs[rung]!,
        strokes: strokes[rung]!,
        drawn: drawn.filter((one) => one.rung === rung),
        expected: { ...expected, now: { ...expected.now, ...held, ...rungs[rung]!.set } },
      };
      if (!byCommand)
        row.seen = (ways ? seenInSliced(setting, place) : seenInMoves(setting, place)).map(tidy);
      const slack = byCommand ? sameAs(setting) : settingInfo(setting).resolution / 2;
      row.ok = row.seen.length === 1 && Math.abs(row.seen[0]! - row.wanted) <= slack;
    }
  });
  return rows.flatMap((one) => one.rows);
}
