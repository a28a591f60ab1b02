/** A table of texts by name; saying one again replaces it. */

import type { Db } from './open';

export function texts<Name extends string>(db: Db, table: 'own' | 'place') {
  const get = db.prepare(`select value from ${table} where name = ?`);
  const set = db.prepare(
    `insert into ${table} (name, value) values (?, ?)
     on conflict (name) do update set value = excluded.value`,
  );
  return {
    get: (name: Name): string | null =>
      (get.get(name) as { value: string } | undefined)?.value ?? null,
    set: (name: Name, value: string): void => void set.run(name, value),
  };
}
