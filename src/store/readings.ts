/** Readings: every tap is an act, and nothing is ever waiting to be saved. */

import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { CriterionName, type Criterion } from '../core/criteria';
import { MOST_RUNGS } from '../core/plan/limits';
import type { Measured } from '../core/ladders/types';
import { Score, type Scores } from '../core/reading/types';
import { byId, idsAsJson } from './by-id';
import type { Db } from './open';

const Row = z.object({
  id: z.number(),
  printId: z.number(),
  reader: z.string(),
  startedAt: z.string(),
});
export type ReadingRow = z.infer<typeof Row>;

const Numbered = z.object({ key: z.string(), value: z.number() });

/** Name of an act; given where it is made, so that it is the same however often it is sent. */
export const ActName = z.string().min(1).max(80);

export const Act = z.object({
  id: ActName,
  rung: z
    .number()
    .int()
    .min(0)
    .max(MOST_RUNGS - 1),
  criterion: CriterionName,
  score: Score.nullable(),
});
export type Act = z.infer<typeof Act>;
type NewAct = Omit<Act, 'id'> & { id?: string };

const COLUMNS = `id, print_id as printId, reader, started_at as startedAt`;

/** What stands: the newest act on each rung and criterion. `null` was said, missing was not. */
export function scoresFrom(acts: readonly Act[], rungs: number): Scores {
  const scores: Partial<Record<Criterion, (Score | null)[]>> = {};
  for (const { rung, criterion, score } of acts) {
    if (rung >= rungs) continue;
    scores[criterion] ??= Array.from({ length: rungs }, () => null);
    scores[criterion][rung] = score;
  }
  return scores;
}

function measuredFrom(rows: readonly z.infer<typeof Numbered>[]): Measured {
  const all: Measured = {};
  for (const { key, value } of rows) (all[key] ??= []).push(value);
  return all;
}

export function readings(db: Db) {
  const insert = db.prepare(`insert into reading (print_id, reader, started_at) values (?, ?, ?)`);
  const one = db.prepare(`select ${COLUMNS} from reading where id = ?`);
  const ofPrint = db.prepare(
    `select ${COLUMNS} from reading where print_id = ? and deleted_at is null order by id`,
  );
  const ofPrints = db.prepare(
    `select ${COLUMNS}, print_id as of from reading
      where print_id in (select value from json_each(?)) and deleted_at is null order by id`,
  );
  const actsOf = db.prepare(
    `select reading_id as of, uid as id, rung, criterion, score from score_act
      where reading_id in (select value from json_each(?)) and undone = 0 order by score_act.id`,
  );
  const numbersOf = db.prepare(
    `select reading_id as of, key, value from measured
      where reading_id in (select value from json_each(?)) order by reading_id, key, place`,
  );
  const rename = db.prepare(`update reading set reader = ? where id = ?`);
  const addAct = db.prepare(
    `insert into score_act (reading_id, uid, rung, criterion, score, at, revision)
     values (?, ?, ?, ?, ?, ?, (select revision + 1 from reading where id = ?))
     on conflict (uid) do nothing`,
  );
  const acts = db.prepare(
    `select uid as id, rung, criterion, score from score_act
      where reading_id = ? and undone = 0 order by score_act.id`,
  );
  const since = db.prepare(
    `select uid as id, rung, criterion, score, undone from score_act
      where reading_id = ? and revision > ? order by score_act.id`,
  );
  const revision = db.prepare(`select revision from reading where id = ?`);
  const grow = db.prepare(`update reading set revision = revision + 1 where id = ?`);
  const clear = db.prepare(`delete from measured where reading_id = ? and key = ?`);
  const addNumber = db.prepare(
    `insert into measured (reading_id, key, place, value, at) values (?, ?, ?, ?, ?)`,
  );
  const numbers = db.prepare(
    `select key, value from measured where reading_id = ? order by key, place`,
  );
  const undo = db.prepare(
    `update score_act set undone = 1, revision = (select revision + 1 from reading where id = ?)
      where reading_id = ? and uid = ? and undone = 0`,
  );

  return {
    start: (printId: number, reader: string, at: string): number =>
      Number(insert.run(printId, reader, at).lastInsertRowid),
    get(id: number): ReadingRow | null {
      const row = one.get(id);
      return row === undefined ? null : Row.parse(row);
    },
    /** Oldest first. */
    ofPrint: (printId: number): ReadingRow[] => ofPrint.all(printId).map((row) => Row.parse(row)),
    /** Of many prints, by print, each the oldest first. */
    ofPrints: (ids: readonly number[]): Map<number, ReadingRow[]> =>
      byId(ofPrints.all(idsAsJson(ids)), (row) => Row.parse(row)),
    /** Taps and numbers of many readings that stand, by reading. */
    saidIn(ids: readonly number[]): { acts: Map<number, Act[]>; measured: Map<number, Measured> } {
      const json = idsAsJson(ids);
      const numbers = byId(numbersOf.all(json), (row) => Numbered.parse(row));
      return {
        acts: byId(actsOf.all(json), (row) => Act.parse(row)),
        measured: new Map([...numbers].map(([id, rows]) => [id, measuredFrom(rows)])),
      };
    },
    /** Says whose scores these are. */
    setReader: (id: number, reader: string): void => void rename.run(reader, id),
    /** One tap; a score of null is "can't tell". */
    score: db.transaction(
      (
        readingId: number,
        { id = randomUUID(), rung, criterion, score }: NewAct,
        at: string,
      ): void => {
        const added = addAct.run(readingId, id, rung, criterion, score, at, readingId);
        if (added.changes > 0) grow.run(readingId);
      },
    ),
    /** Takes one tap back; the same undo sent twice is one. @returns whether such a tap stood */
    undo: db.transaction((readingId: number, act: string): boolean => {
      if (undo.run(readingId, readingId, act).changes === 0) return false;
      grow.run(readingId);
      return true;
    }),
    /** Grows with every tap, undo and number. */
    revision: (readingId: number): number =>
      (revision.get(readingId) as { revision: number } | undefined)?.revision ?? 0,
    /** What stands: the newest act on each rung and criterion. `null` was said, missing was not. */
    scores: (readingId: number, rungs: number): Scores =>
      scoresFrom(
        acts.all(readingId).map((row) => Act.parse(row)),
        rungs,
      ),
    /** Every tap that stands, oldest first, "can't tell" too. */
    answered: (readingId: number): Act[] => acts.all(readingId).map((row) => Act.parse(row)),
    /** Taps that came or were taken back after a revision, oldest first. */
    since: (readingId: number, seen: number): (Act & { undone?: true })[] =>
      since.all(readingId, seen).map((row) => {
        const { undone, ...act } = row as { undone: number };
        return { ...Act.parse(act), ...(undone === 1 ? { undone: true as const } : {}) };
      }),
    /** Puts the numbers of one measure in the place of what was entered for it. */
    measure: db.transaction(
      (readingId: number, key: string, values: readonly number[], at: string): void => {
        clear.run(readingId, key);
        values.forEach((value, place) => addNumber.run(readingId, key, place, value, at));
        grow.run(readingId);
      },
    ),
    measured: (readingId: number): Measured =>
      measuredFrom(numbers.all(readingId).map((row) => Numbered.parse(row))),
  };
}
