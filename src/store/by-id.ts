/** Rows of many at once, by the id of what they belong to: one statement, whatever the number. */

/** For `in (select value from json_each(?))`. */
export const idsAsJson = (ids: readonly number[]): string => JSON.stringify(ids);

/** Rows by the id that each of them names as `of`, in their order. */
export function byId<T>(rows: readonly unknown[], read: (row: unknown) => T): Map<number, T[]> {
  const all = new Map<number, T[]>();
  for (const row of rows) {
    const { of, ...rest } = row as { of: number };
    const known = all.get(of);
    if (known) known.push(read(rest));
    else all.set(of, [read(rest)]);
  }
  return all;
}
