/** Readings: every tap is an act, and nothing is ever waiting to be saved. */

import { z } from 'zod';
import { CRITERION_NAMES, type Criterion } from '../core/criteria';
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

export const Act = z.object({
  rung: z.number(),
  criterion: z.enum(CRITERION_NAMES),
  score: Score.nullable(),
});
export type Act = z.infer<typeof Act>;

const COLUMNS = `id, print_id as printId, reader, started_at as startedAt`;

export function readings(db: Db) {
  const insert = db.prepare(`insert into reading (print_id, reader, started_at) values (?, ?, ?)`);
  const one = db.prepare(`select ${COLUMNS} from reading where id = ?`);
  const ofPrint = db.prepare(
    `select ${COLUMNS} from reading where print_id = ? and deleted_at is null order by id`,
  );
  const mark = db.prepare(`update reading set deleted_at = ? where id = ?`);
  const addAct = db.prepare(
    `insert into score_act (reading_id, rung, criterion, score, at) values (?, ?, ?, ?, ?)`,
  );
  const acts = db.prepare(
    `select rung, criterion, score from score_act where reading_id = ? and undone = 0 order by id`,
  );
  const newest = db.prepare(
    `select id, rung, criterion, score from score_act
      where reading_id = ? and undone = 0 order by id desc limit 1`,
  );
  const clear = db.prepare(`delete from measured where reading_id = ? and key = ?`);
  const addNumber = db.prepare(
    `insert into measured (reading_id, key, place, value, at) values (?, ?, ?, ?, ?)`,
  );
  const numbers = db.prepare(
    `select key, value from measured where reading_id = ? order by key, place`,
  );
  const undo = db.prepare(`update score_act set undone = 1 where id = ?`);

  return {
    start: (printId: number, reader: string, at: string): number =>
      Number(insert.run(printId, reader, at).lastInsertRowid),
    get(id: number): ReadingRow | null {
      const row = one.get(id);
      return row === undefined ? null : Row.parse(row);
    },
    /** Oldest first. */
    ofPrint: (printId: number): ReadingRow[] => ofPrint.all(printId).map((row) => Row.parse(row)),
    /** One tap; a score of null is "can't tell". */
    score: (readingId: number, { rung, criterion, score }: Act, at: string): void =>
      void addAct.run(readingId, rung, criterion, score, at),
    /** Takes the newest tap back. @returns where it was, or null when there is nothing to undo */
    undo: db.transaction((readingId: number): Act | null => {
      const row = newest.get(readingId) as { id: number } | undefined;
      if (row === undefined) return null;
      undo.run(row.id);
      return Act.parse(row);
    }),
    /** What stands: the newest act on each rung and criterion. `null` was said, missing was not. */
    scores(readingId: number, rungs: number): Scores {
      const scores: Partial<Record<Criterion, (Score | null)[]>> = {};
      for (const row of acts.all(readingId)) {
        const { rung, criterion, score } = Act.parse(row);
        if (rung >= rungs) continue;
        scores[criterion] ??= Array.from({ length: rungs }, () => null);
        scores[criterion]![rung] = score;
      }
      return scores;
    },
    /** Rung and criterion of everything that was answered, "can't tell" too. */
    answered: (readingId: number): Act[] => acts.all(readingId).map((row) => Act.parse(row)),
    /** Puts the numbers of one measure in the place of what was entered for it. */
    measure: db.transaction(
      (readingId: number, key: string, values: readonly number[], at: string): void => {
        clear.run(readingId, key);
        values.forEach((value, place) => addNumber.run(readingId, key, place, value, at));
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
    putAway: (id: number, at: string): boolean => mark.run(at, id).changes === 1,
    restore: (id: number): boolean => mark.run(null, id).changes === 1,
  };
}
