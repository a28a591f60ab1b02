/** A ladder with everything that its four screens need. */

import 'server-only';
import { notFound } from 'next/navigation';
import { kindFor } from '@/core/ladders/registry';
import type { LadderKind, Measured } from '@/core/ladders/types';
import { asNudged } from '@/core/plan/nudged';
import type { Plan } from '@/core/plan/plan';
import type { Scores } from '@/core/reading/types';
import type { StoredBench } from '@/store/benches';
import type { Ladder, Print, Simulated } from '@/store/ladders';
import type { Counted } from '@/store/looks';
import { scoresFrom, type Act, type ReadingRow } from '@/store/readings';
import { store } from './store';

/** An id out of an address; 0, which nothing has, for what is none. */
export const idOf = (text: string): number => (/^[1-9]\d{0,14}$/.test(text) ? Number(text) : 0);

export type LadderView = { ladder: Ladder; kind: LadderKind; bench: StoredBench };

/** Ends in "not found" for an id that is none, or a kind that this version does not know. */
export function ladderView(idText: string): LadderView {
  const ladder = store().ladders.get(idOf(idText));
  const kind = ladder && kindFor(ladder);
  const bench = ladder && store().benches.get(ladder.benchId);
  if (!ladder || !bench || !kind?.ok) notFound();
  return { ladder, kind: kind.value, bench };
}

export type PrintedCopy = {
  ladderId: number;
  print: Print;
  /** As it was really printed: heights that were nudged are what they were. */
  plan: Plan;
  /** What counts of its pictures. */
  counted: Counted[];
  readings: {
    row: ReadingRow;
    scores: Scores;
    measured: Measured;
    begun: boolean;
    complete: boolean;
  }[];
};

/** Printed copies of a ladder with their readings, oldest first. */
export const copiesOf = (ladderId: number): PrintedCopy[] => copiesOfAll([ladderId]);

/** The same of many ladders: as many statements, however many ladders, copies and readings there are. */
export function copiesOfAll(ladderIds: readonly number[]): PrintedCopy[] {
  const { prints, files, readings, wires, looks } = store();
  const all = prints.ofLadders(ladderIds);
  if (all.length === 0) return [];
  const ids = all.map(({ id }) => id);
  const made = files.many([...new Set(all.map(({ fileId }) => fileId))]);
  const nudges = wires.nudgesOfPrints(ids);
  const counted = looks.countedOf(ids);
  const rows = readings.ofPrints(ids);
  const said = readings.saidIn([...rows.values()].flat().map(({ id }) => id));
  return all.flatMap((print) => {
    const file = made.get(print.fileId);
    if (!file) return [];
    const rungs = file.plan.rungs.length;
    return [
      {
        ladderId: file.ladderId,
        print,
        plan: asNudged(file.plan, nudges.get(print.id) ?? []),
        counted: counted.get(print.id) ?? [],
        readings: (rows.get(print.id) ?? []).map((row) => {
          const acts = said.acts.get(row.id) ?? [];
          const measured = said.measured.get(row.id) ?? {};
          const scores = scoresFrom(acts, rungs);
          return { row, measured, scores, ...progressOf(acts, measured, rungs) };
        }),
      },
    ];
  });
}

/** Begun with the first answer; complete when every criterion that was begun is answered on every rung. */
function progressOf(
  acts: readonly Act[],
  measured: Measured,
  rungs: number,
): { begun: boolean; complete: boolean } {
  const looked = new Map<string, Set<number>>();
  for (const { criterion, rung } of acts)
    looked.set(criterion, (looked.get(criterion) ?? new Set()).add(rung));
  const complete = [...looked.values()].every((seen) => seen.size >= rungs);
  const begun = acts.length > 0 || Object.keys(measured).length > 0;
  return { begun, complete: begun && complete };
}

/** Where the picture of a printed copy is: as it came out, or as it was designed. */
export const pictureOf = ({ id, fileId, simulated }: Print): string =>
  simulated ? `/prints/${id}/picture` : `/files/${fileId}/picture`;

/** Copies that are pooled: the same values on the same rungs, and all real, or all from one simulated machine. */
export type Group = {
  /** `real`, or `seed-7` of a simulated machine. */
  of: string;
  simulated: Simulated | null;
  copies: PrintedCopy[];
  /** Whether anything was scored or measured on them. */
  begun: boolean;
};

export const groupName = (simulated: Simulated | null): string =>
  simulated ? `seed-${simulated.seed}` : 'real';

/**
 * One group of the real prints and one of each simulated machine, newest first. Where the design changed between
 * prints, those that were scored last count: a copy that nobody has looked at displaces nothing.
 */
export function groupsOf(copies: readonly PrintedCopy[]): Group[] {
  const alike = new Map<string, Group>();
  for (const copy of copies) {
    const { simulated } = copy.print;
    const of = groupName(simulated);
    const key = JSON.stringify([of, copy.plan.rungs.map(({ set }) => set)]);
    const group = alike.get(key) ?? { of, simulated, copies: [], begun: false };
    group.copies.push(copy);
    group.begun ||= copy.counted.length > 0 || copy.readings.some(({ begun }) => begun);
    alike.set(key, group);
  }
  const newest = [...alike.values()].sort(
    (a, b) =>
      Number(b.begun) - Number(a.begun) || b.copies.at(-1)!.print.id - a.copies.at(-1)!.print.id,
  );
  return newest.filter((one, i) => newest.findIndex(({ of }) => of === one.of) === i);
}
