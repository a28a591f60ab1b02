/** Readings: every tap is an act, and nothing is ever waiting to be saved. */

import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { CriterionName, type Criterion } from '../core/criteria';
import { MOST_RUNGS } from '../core/plan/limits';
import type { Measured } from '../core/ladders/types';
import { Score, type Scores } from '../core/reading/types';
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

export function readings(db: Db) {
  const insert = db.prepare(`insert into reading (print_id, reader, started_at) values (?, ?, ?)`);
  const one = db.prepare(`select ${COLUMNS} from reading where id = ?`);
  const ofPrint = db.prepare(
    `select ${COLUMNS} from reading where print_id = ? and deleted_at is null order by id`,
  );
  const rename = db.prepare(`update reading set reader = ? where id = ?`);
  const addAct = db.prepare(
    `insert into score_act (reading_id, uid, rung, criterion, score, at) values (?, ?, ?, ?, ?, ?)
     on conflict (uid) do nothing`,
  );
  const acts = db.prepare(
    `select uid as id, rung, criterion, score from score_act
      where reading_id = ? and undone = 0 order by score_act.id`,
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
    `update score_act set undone = 1 where reading_id = ? and uid = ? and undone = 0`,
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
    /** Says whose scores these are. */
    setReader: (id: number, reader: string): void => void rename.run(reader, id),
    /** One tap; a score of null is "can't tell". */
    score: db.transaction(
      (
        readingId: number,
        { id = randomUUID(), rung, criterion, score }: NewAct,
        at: string,
      ): void => {
        if (addAct.run(readingId, id, rung, criterion, score, at).changes > 0) grow.run(readingId);
      },
    ),
    /** Takes one tap back; the same undo sent twice is one. @returns whether such a tap stood */
    undo: db.transaction((readingId: number, act: string): boolean => {
      if (undo.run(readingId, act).changes === 0) return false;
      grow.run(readingId);
      return true;
    }),
    /** Grows with every tap, undo and number. */
    revision: (readingId: number): number =>
      (revision.get(readingId) as { revision: number } | undefined)?.revision ?? 0,
    /** What stands: the newest act on each rung and criterion. `null` was said, missing was not. */
    scores(readingId: number, rungs: number): Scores {
      const scores: Partial<Record<Criterion, (Score | null)[]>> = {};
      for (const row of acts.all(readingId)) {
        const { rung, criterion, score } = Act.parse(row);
        if (rung >= rungs) continue;
        scores[criterion] ??= Array.from({ length: rungs }, () => null);
        scores[criterion][rung] = score;
      }
      return scores;
    },
    /** Every tap that stands, oldest first, "can't tell" too. */
    answered: (readingId: number): Act[] => acts.all(readingId).map((row) => Act.parse(row)),
    /** Puts the numbers of one measure in the place of what was entered for it. */
    measure: db.transaction(
      (readingId: number, key: string, values: readonly number[], at: string): void => {
        clear.run(readingId, key);
        values.forEach((value, place) => addNumber.run(readingId, key, place, value, at));
        grow.run(readingId);
      },
    ),
    measured(readingId: number): Measured {
      const all: Measured = {};
      for (const row of numbers.all(readingId)) {
        const { key, value } = Numbered.parse(row);
        (all[key] ??= []).push(value);
      }
      return all;
    },
  };
}
