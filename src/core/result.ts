/** Expected trouble as a value. Exceptions are kept for bugs. */

import type { z } from 'zod';

/** One thing that is wrong: where it stands, what came, and how to mend it, in plain words. */
export type Problem = {
  /** Field path (`machine.bed.width`) or line (`line 12`). */
  where: string;
  /** What came and what was expected. */
  what: string;
  /** What the user can do about it. */
  mend: string;
};

export type Result<T> = { ok: true; value: T } | { ok: false; problems: Problem[] };

/** What an act on the server answers: done, or problems in words. */
export type Answer<T = null> = Result<T>;

export const ok = <T>(value: T): Result<T> => ({ ok: true, value });
export const fail = (...problems: Problem[]): Result<never> => ({ ok: false, problems });
export const problem = (where: string, what: string, mend: string): Problem => ({
  where,
  what,
  mend,
});

/** Parses unknown data; every Zod issue becomes a problem at its field path under `root`. */
export function parseWith<T>(schema: z.ZodType<T>, data: unknown, root = ''): Result<T> {
  const parsed = schema.safeParse(data);
  if (parsed.success) return ok(parsed.data);
  return {
    ok: false,
    problems: parsed.error.issues.map((issue) => {
      const where = [root, ...issue.path.map(String)].filter(Boolean).join('.') || 'input';
      const came = valueAt(data, issue.path);
      const shown = came === undefined ? 'nothing' : JSON.stringify(came)?.slice(0, 80);
      return problem(where, `${issue.message}; came ${shown}`, `Give ${where} a value that fits.`);
    }),
  };
}

/** A problem as one line of text, for a terminal or a log. */
export const problemLine = ({ where, what, mend }: Problem): string => `${where}: ${what} ${mend}`;

function valueAt(data: unknown, path: readonly PropertyKey[]): unknown {
  return path.reduce<unknown>(
    (value, key) =>
      typeof value === 'object' && value !== null
        ? (value as Record<PropertyKey, unknown>)[key]
        : undefined,
    data,
  );
}
