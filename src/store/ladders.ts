/** Ladders of a bench, the files made of them, and their printed copies. */

import { createHash } from 'node:crypto';
import { deflateSync, inflateSync } from 'node:zlib';
import { z } from 'zod';
import { Audit } from '../core/gcode/audit';
import { Times } from '../core/motion/times';
import { StoredPlan, type Plan } from '../core/plan/plan';
import { Weights } from '../core/reading/types';
import { byId, idsAsJson } from './by-id';
import { bytes } from './bytes';
import type { Db } from './open';

const Ladder = z.object({
  id: z.number(),
  benchId: z.number(),
  kind: z.string(),
  spec: z.record(z.string(), z.number()),
  weights: Weights,
  createdAt: z.string(),
  /** Grows with every change of the spec. */
  revision: z.number(),
});
export type Ladder = z.infer<typeof Ladder>;
type NewLadder = Omit<Ladder, 'id' | 'revision'>;

const FileHead = z.object({
  id: z.number(),
  ladderId: z.number(),
  name: z.string(),
  sha256: z.string(),
  bytes: z.number(),
  program: z.string(),
  madeAt: z.string(),
});
export type StoredFile = z.infer<typeof FileHead> & { plan: Plan };

/** What the check of a file said: its audit, and where its time goes. */
export const Checked = z.object({ audited: Audit, times: Times });
export type Checked = z.infer<typeof Checked>;

/** Which simulated machine printed: its name, and the seed of what is hidden in it. */
export const Simulated = z.object({
  name: z.string().max(80),
  seed: z.number().int().min(0).max(0x7fffffff),
});
export type Simulated = z.infer<typeof Simulated>;

const Print = z.object({
  id: z.number(),
  fileId: z.number(),
  printedAt: z.string(),
  /** Null for a real print. */
  simulated: Simulated.nullable(),
});
export type Print = z.infer<typeof Print>;

/** What was opened only to be looked at is on no list: nothing was changed in it, and no file made of it. */
const BEGUN = `(revision > 0 or current_file_id is not null)`;
const LADDER = `id, bench_id as benchId, kind, spec, weights, created_at as createdAt, revision`;
const FILE_HEAD = `file.id as id, ladder_id as ladderId, name, sha256, bytes, program, made_at as madeAt`;
const FILE = `${FILE_HEAD}, plan`;
const FROM_FILE = `from file join file_text on file_text.file_id = file.id`;
const PRINT = `print.id as id, file_id as fileId, printed_at as printedAt, simulated`;

/**
 * How far a ladder is: of its newest print, whether a reading was begun, and whether every criterion that was begun
 * has an answer on every rung.
 */
const Progress = z.object({
  id: z.number(),
  kind: z.string(),
  createdAt: z.string(),
  print: z.number().nullable(),
  begun: z.number(),
  partial: z.number(),
});
export type Progress = z.infer<typeof Progress>;

const PROGRESS = `
  with listed as (
    select id, kind, created_at from ladder where bench_id = ? and deleted_at is null and ${BEGUN}
     order by id desc limit ?
  ), newest as (
    select listed.id, listed.kind, listed.created_at, (
      select max(print.id) from file join print on print.file_id = file.id
       where file.ladder_id = listed.id and print.deleted_at is null
    ) as print
    from listed
  )
  select newest.id, newest.kind, newest.created_at as createdAt, newest.print,
    coalesce((
      select count(*) from reading where reading.print_id = newest.print and deleted_at is null and (
        exists (select 1 from score_act where reading_id = reading.id and undone = 0)
        or exists (select 1 from measured where reading_id = reading.id))
    ), 0) + coalesce((
      select count(*) from look left join photo on photo.id = look.photo_id
       where look.print_id = newest.print and look.counted is not null
         and photo.deleted_at is null
    ), 0) as begun,
    coalesce((
      select count(*) from (
        select count(distinct rung) as answered from reading
          join score_act on score_act.reading_id = reading.id and undone = 0
         where reading.print_id = newest.print and reading.deleted_at is null
         group by reading.id, criterion
      ) where answered < (
        select rungs from file join print on print.file_id = file.id
         where print.id = newest.print)
    ), 0) as partial
  from newest order by newest.id desc`;

/** Parses a row whose named columns hold JSON. */
function unpack<T>(schema: z.ZodType<T>, row: unknown, json: readonly string[]): T {
  const open = { ...(row as Record<string, unknown>) };
  for (const name of json) open[name] = JSON.parse(open[name] as string);
  return schema.parse(open);
}

export function ladders(db: Db) {
  const insert = db.prepare(
    `insert into ladder (bench_id, kind, spec, weights, created_at) values (?, ?, ?, ?, ?)`,
  );
  const setSpec = db.prepare(`update ladder set spec = ?, revision = revision + 1 where id = ?`);
  const setWeights = db.prepare(`update ladder set weights = ? where id = ?`);
  const one = db.prepare(`select ${LADDER} from ladder where id = ?`);
  const ofBench = db.prepare(
    `select ${LADDER} from ladder where bench_id = ? and deleted_at is null and ${BEGUN}
      order by id desc limit ?`,
  );
  const lookedAt = db.prepare(
    `select id from ladder
      where bench_id = ? and kind = ? and deleted_at is null and not ${BEGUN} limit 1`,
  );
  const renew = db.prepare(`update ladder set spec = ?, weights = ?, created_at = ? where id = ?`);
  const before = db.prepare(
    `select ${LADDER} from ladder
      where bench_id = ? and kind = ? and id < ? and deleted_at is null order by id desc limit ?`,
  );
  const progress = db.prepare(PROGRESS);
  const read = (row: unknown) => unpack(Ladder, row, ['spec', 'weights']);
  return {
    add: (ladder: NewLadder): number =>
      Number(
        insert.run(
          ladder.benchId,
          ladder.kind,
          JSON.stringify(ladder.spec),
          JSON.stringify(ladder.weights),
          ladder.createdAt,
        ).lastInsertRowid,
      ),
    /** One whose values somebody chose: on the lists from the first. */
    addChosen(ladder: NewLadder): number {
      const id = this.add(ladder);
      setSpec.run(JSON.stringify(ladder.spec), id);
      return id;
    },
    /** A ladder to be looked at: the one of this kind that was only looked at before, set up anew, or another. */
    addToLookAt(ladder: NewLadder): number {
      const { benchId, kind, spec, weights, createdAt } = ladder;
      const known = lookedAt.get(benchId, kind) as { id: number } | undefined;
      if (!known) return this.add(ladder);
      renew.run(JSON.stringify(spec), JSON.stringify(weights), createdAt, known.id);
      return known.id;
    },
    changeSpec: (id: number, spec: Ladder['spec']): boolean =>
      setSpec.run(JSON.stringify(spec), id).changes === 1,
    changeWeights: (id: number, weights: Weights): boolean =>
      setWeights.run(JSON.stringify(weights), id).changes === 1,
    get(id: number): Ladder | null {
      const row = one.get(id);
      return row === undefined ? null : read(row);
    },
    /** Newest first. */
    ofBench: (benchId: number, most = -1): Ladder[] => ofBench.all(benchId, most).map(read),
    /** Those of one kind before a ladder, newest first. */
    before: (benchId: number, kind: string, id: number, most: number): Ladder[] =>
      before.all(benchId, kind, id, most).map(read),
    /** How far each ladder of a bench is, newest first, without reading plans or taps. */
    progress: (benchId: number, most = -1): Progress[] =>
      progress.all(benchId, most).map((row) => Progress.parse(row)),
  };
}

/** Plans that are kept ready; a few kB each. */
const MOST_PLANS = 200;

export function files(db: Db) {
  const insert = db.prepare(
    `insert into file (ladder_id, name, sha256, bytes, rungs, gcode_sha, program, made_at)
     values (@ladderId, @name, @sha256, @bytes, @rungs, @gcode, @program, @madeAt)
     on conflict (ladder_id, sha256) do update set name = excluded.name
     returning id`,
  );
  const one = db.prepare(`select ${FILE} ${FROM_FILE} where file.id = ?`);
  const current = db.prepare(
    `select ${FILE} ${FROM_FILE} where file.id = (select current_file_id from ladder where id = ?)`,
  );
  const setCurrent = db.prepare(`update ladder set current_file_id = ? where id = ?`);
  const like = db.prepare(`select ${FILE} ${FROM_FILE} where sha256 = ? order by file.id limit 1`);
  const any = db.prepare(`select 1 from file where ladder_id = ? limit 1`);
  const text = db.prepare(`select gcode_sha as sha from file where id = ?`);
  const heads = db.prepare(
    `select ${FILE_HEAD} from file where id in (select value from json_each(?))`,
  );
  const texts = db.prepare(
    `select file_id as of, plan from file_text where file_id in (select value from json_each(?))`,
  );
  const checked = db.prepare(`select checked from file_text where file_id = ?`);
  const setChecked = db.prepare(`update file_text set checked = ? where file_id = ?`);
  /** Plans by the hash of their file, which they belong to for good: a plan with its bench takes long to check. */
  const plans = new Map<string, Plan>();
  const planOf = ({ sha256 }: { sha256: string }, text: string): Plan => {
    const plan = plans.get(sha256) ?? StoredPlan.parse(JSON.parse(text));
    // Used again, it is the last to be let go.
    plans.delete(sha256);
    plans.set(sha256, plan);
    if (plans.size > MOST_PLANS) plans.delete(plans.keys().next().value!);
    return plan;
  };
  const read = (row: unknown): StoredFile => {
    const { plan: text, ...rest } = row as { plan: string };
    const head = FileHead.parse(rest);
    return { ...head, plan: planOf(head, text) };
  };
  const addText = db.prepare(
    `insert into file_text (file_id, plan) values (?, ?) on conflict (file_id) do nothing`,
  );
  const shelf = bytes(db);
  const keepOnce = db.transaction((ladderId: number, gcode: Buffer, plan: Plan, row: object) => {
    const packed = shelf.keep(deflateSync(gcode));
    const kept = z.object({ id: z.number() }).parse(insert.get({ ...row, gcode: packed }));
    addText.run(kept.id, JSON.stringify(plan));
    setCurrent.run(kept.id, ladderId);
    return kept;
  });
  return {
    /** Keeps a file whole, as what its ladder stands for now; the same bytes are kept once. @returns its id */
    keep(ladderId: number, gcode: string | Uint8Array, plan: Plan, madeAt: string): number {
      const body = Buffer.from(gcode as Uint8Array);
      const { id } = keepOnce(ladderId, body, plan, {
        ladderId,
        name: plan.file,
        rungs: plan.rungs.length,
        sha256: createHash('sha256').update(body).digest('hex'),
        bytes: body.length,
        program: plan.program,
        madeAt,
      });
      return id;
    },
    /** The ladder stands for this file of it from now on. */
    makeCurrent: (id: number, ladderId: number): void => void setCurrent.run(id, ladderId),
    get(id: number): StoredFile | null {
      const row = one.get(id);
      return row === undefined ? null : read(row);
    },
    /** Of many, by their ids; what is planned in those that are known is not read again. */
    many(ids: readonly number[]): Map<number, StoredFile> {
      const all = heads.all(idsAsJson(ids)).map((row) => FileHead.parse(row));
      // Held here: those that are read now may put them out of what is kept ready.
      const known = new Map(
        all.flatMap(({ sha256 }) => {
          const plan = plans.get(sha256);
          return plan ? [[sha256, plan] as const] : [];
        }),
      );
      const unread = all.filter(({ sha256 }) => !known.has(sha256)).map(({ id }) => id);
      const read = byId(texts.all(idsAsJson(unread)), (row) => (row as { plan: string }).plan);
      return new Map(
        all.map((head) => [
          head.id,
          { ...head, plan: known.get(head.sha256) ?? planOf(head, read.get(head.id)![0]!) },
        ]),
      );
    },
    /** The file with the same bytes, of whatever ladder. */
    same(gcode: Uint8Array): StoredFile | null {
      const row = like.get(createHash('sha256').update(gcode).digest('hex'));
      return row === undefined ? null : read(row);
    },
    /** Whether anything was made of a ladder. */
    any: (ladderId: number): boolean => any.get(ladderId) !== undefined,
    /** The file that a ladder stands for now: the one that was made of it last. */
    currentOf(ladderId: number): StoredFile | null {
      const row = current.get(ladderId);
      return row === undefined ? null : read(row);
    },
    /** What the check of a file said; null where it has not been checked, or not by a program that says all of it. */
    checked(id: number): Checked | null {
      const row = checked.get(id) as { checked: string | null } | undefined;
      const told = row?.checked ? Checked.safeParse(JSON.parse(row.checked)) : null;
      return told?.success ? told.data : null;
    },
    keepChecked: (id: number, told: Checked): void => void setChecked.run(JSON.stringify(told), id),
    /** The file as it is, byte for byte. */
    bytes(id: number): Uint8Array | null {
      const row = text.get(id) as { sha: string } | undefined;
      const packed = row && shelf.get(row.sha);
      return packed ? inflateSync(packed) : null;
    },
  };
}

export function prints(db: Db) {
  const insert = db.prepare(`insert into print (file_id, printed_at, simulated) values (?, ?, ?)`);
  const one = db.prepare(`select ${PRINT} from print where id = ?`);
  const ofLadder = db.prepare(
    `select ${PRINT} from print join file on file.id = print.file_id
      where file.ladder_id = ? and print.deleted_at is null
      order by print.id`,
  );
  const ofLadders = db.prepare(
    `select ${PRINT} from print join file on file.id = print.file_id
      where file.ladder_id in (select value from json_each(?)) and print.deleted_at is null
      order by print.id`,
  );
  const count = db
    .prepare(
      `select count(*) from print join file on file.id = print.file_id
        where file.ladder_id = ? and print.deleted_at is null`,
    )
    .pluck();
  const ofFile = db.prepare(
    `select ${PRINT} from print where file_id = ? and deleted_at is null order by id`,
  );
  const any = db.prepare(
    `select 1 from print join file on file.id = print.file_id
      where file.ladder_id = ? and print.deleted_at is null limit 1`,
  );
  const setPicture = db.prepare(`insert into print_picture (print_id, png_sha) values (?, ?)`);
  const picture = db.prepare(`select png_sha from print_picture where print_id = ?`).pluck();
  const shelf = bytes(db);
  const read = (row: unknown): Print => {
    const { simulated, ...rest } = row as { simulated: string | null };
    const told: unknown = simulated === null ? null : JSON.parse(simulated);
    return Print.parse({ ...rest, simulated: told });
  };
  return {
    add: (fileId: number, printedAt: string, simulated: Simulated | null = null): number =>
      Number(insert.run(fileId, printedAt, simulated && JSON.stringify(simulated)).lastInsertRowid),
    setPicture: db.transaction((id: number, png: Uint8Array): void => {
      setPicture.run(id, shelf.keep(png));
    }),
    picture(id: number): Uint8Array | null {
      const sha = picture.get(id) as string | undefined;
      return sha === undefined ? null : shelf.get(sha);
    },
    get(id: number): Print | null {
      const row = one.get(id);
      return row === undefined ? null : read(row);
    },
    any: (ladderId: number): boolean => any.get(ladderId) !== undefined,
    /** How many copies of a ladder stand. */
    count: (ladderId: number): number => count.get(ladderId) as number,
    /** Of many ladders, oldest first. */
    ofLadders: (ids: readonly number[]): Print[] => ofLadders.all(idsAsJson(ids)).map(read),
    /** Oldest first. */
    ofFile: (fileId: number): Print[] => ofFile.all(fileId).map(read),
    /** Oldest first. */
    ofLadder: (ladderId: number): Print[] => ofLadder.all(ladderId).map(read),
  };
}
