/** Which data this is: acts, pictures, pages and streams say what they were made with, and what does not belong stays out. */

import type { Db } from './open';

/** Changes whenever other data takes the place of what there was. */
export function identity(db: Db): () => string {
  const one = db.prepare(`select value from own where name = 'store'`).pluck();
  return () => (one.get() as string | undefined) ?? '';
}

/** Says that from here on it is other data: same place, another generation. */
export const anotherGeneration = (db: Db): void =>
  void db
    .prepare(
      `insert into own (name, value) values ('store', lower(hex(randomblob(8))) || '-' || lower(hex(randomblob(4))))
       on conflict (name) do update set value = substr(value, 1, 16) || '-' || lower(hex(randomblob(4)))`,
    )
    .run();
