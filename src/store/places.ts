/** Where the user was: a page opened again is where it was. */

import type { Db } from './open';

export function places(db: Db) {
  const get = db.prepare(`select value from place where name = ?`);
  const set = db.prepare(
    `insert into place (name, value) values (?, ?)
     on conflict (name) do update set value = excluded.value`,
  );
  return {
    get: (name: string): string | null =>
      (get.get(name) as { value: string } | undefined)?.value ?? null,
    set: (name: string, value: string): void => void set.run(name, value),
  };
}
