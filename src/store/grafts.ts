/** Which sliced file a ladder was made of, and what was asked for. */

import { z } from 'zod';
import { Wish } from '../core/graft/recipe';
import type { Db } from './open';

const Graft = z.object({ ladderId: z.number(), keptId: z.number(), wish: Wish });
export type Graft = z.infer<typeof Graft>;

export function grafts(db: Db) {
  const put = db.prepare(
    `insert into graft (ladder_id, kept_id, wish) values (?, ?, ?)
     on conflict (ladder_id) do update set kept_id = excluded.kept_id, wish = excluded.wish`,
  );
  const one = db.prepare(
    `select ladder_id as ladderId, kept_id as keptId, wish from graft where ladder_id = ?`,
  );
  return {
    put: (ladderId: number, keptId: number, wish: Wish): void =>
      void put.run(ladderId, keptId, JSON.stringify(wish)),
    of(ladderId: number): Graft | null {
      const row = one.get(ladderId) as { wish: string } | undefined;
      return row === undefined
        ? null
        : Graft.parse({ ...row, wish: JSON.parse(row.wish) as unknown });
    },
  };
}
