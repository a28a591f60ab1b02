/** Presses of buttons, each by the name that its page gave it: done once, and known afterwards. */

import type { Db } from './open';

/** `cut`: the program ended in the middle of it. `barred`: asked for before it came, and so never done. */
export type PressState = 'begun' | 'done' | 'cut' | 'barred';

/** How long what was pressed is known, ms. */
const KEPT_MS = 7 * 24 * 3_600_000;

export function pressed(db: Db) {
  const one = db.prepare(`select state from pressed where name = ?`).pluck();
  const put = db.prepare(
    `insert into pressed (name, state, at) values (?, ?, ?) on conflict (name) do nothing`,
  );
  const end = db.prepare(`update pressed set state = ? where name = ? and state = 'begun'`);
  const cut = db.prepare(`update pressed set state = 'cut' where state = 'begun'`);
  const old = db.prepare(`delete from pressed where at < ?`);
  const state = (name: string): PressState | null =>
    (one.get(name) as PressState | undefined) ?? null;
  return {
    state,
    /** @returns whether it is the first of its name, and so may be done */
    begin: (name: string, at: string): boolean => put.run(name, 'begun', at).changes === 1,
    end: (name: string, how: 'done' | 'cut'): void => void end.run(how, name),
    /** What became of one; one that never came does not come any more. */
    settle: db.transaction((name: string, at: string): PressState => {
      put.run(name, 'barred', at);
      return state(name)!;
    }),
    /** After a start: what was under way has ended with the program, and what is old is forgotten. */
    afterStart(now: Date): void {
      cut.run();
      old.run(new Date(now.getTime() - KEPT_MS).toISOString());
    },
  };
}
