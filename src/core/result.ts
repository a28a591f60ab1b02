/** Expected trouble as a value. Exceptions are kept for bugs. */

import type { z } from 'zod';
import { capital } from './text';

/** One thing that is wrong: where it stands, what came, and how to mend it, in plain words. */
export type Problem = {
  /** Field path (`machine.bed.width`) or line (`line 12`). */
  where: string;
  /** What came and what was expected. */
  what: string;
  /** What the user can do about it. */
  mend: string;
  /** What the field is called on the screen. */
  label?: string;
};

export type Result<T> = { ok: true; value: T } | Failed;

/** What an act on the server answers: done, or problems in words. */
export type Answer<T = null> = Result<T>;

export const ok = <T>(value: T): Result<T> => ({ ok: true, value });
export type Failed = { ok: false; problems: Problem[] };
export const fail = (...problems: Problem[]): Failed => ({ ok: false, problems });
export const problem = (where: string, what: string, mend: string): Problem => ({
  where,
  what,
  mend,
});

/** What a field is called where people see it, by its path; undefined where it has no name. */
export type Labels = (path: string) => string | undefined;

/** Parses unknown data; every Zod issue becomes a problem at its field path under `root`, in plain words. */
export function parseWith<T>(
  schema: z.ZodType<T>,
  data: unknown,
  root = '',
  labels: Labels = () => undefined,
): Result<T> {
  const parsed = schema.safeParse(data);
  if (parsed.success) return ok(parsed.data);
  return {
    ok: false,
    problems: parsed.error.issues.map((issue) => {
      const path = issue.path.map(String).join('.');
      const where = [root, path].filter(Boolean).join('.') || 'input';
      const label = labels(path);
      const what = issueWords(issue, valueAt(data, issue.path));
      return { ...problem(where, what, 'Enter a valid value.'), ...(label ? { label } : {}) };
    }),
  };
}

const shown = (came: unknown): string => {
  if (came === undefined || came === null || came === '') return 'Nothing';
  if (typeof came === 'number') return String(came);
  const text = JSON.stringify(came) ?? String(came);
  return text.length > 60 ? `${text.slice(0, 60)}…` : text;
};

const TYPES: Record<string, string> = {
  number: 'a number',
  int: 'a whole number',
  string: 'a text',
  boolean: 'yes or no',
  array: 'a list',
  object: 'a group of fields',
  record: 'a group of fields',
};

/** What came and what is allowed, as one would say it; nothing of the schema's own words. */
function issueWords(issue: z.core.$ZodIssue, came: unknown): string {
  const it = shown(came);
  switch (issue.code) {
    case 'invalid_type':
      return `${it} came; ${TYPES[issue.expected] ?? issue.expected} is needed.`;
    case 'too_small':
      if (issue.origin === 'string' && Number(issue.minimum) <= 1)
        return 'Nothing came; a text is needed.';
      return `${it} came; ${issue.inclusive ? 'at least' : 'more than'} ${ofSize(issue.origin, issue.minimum)} is needed.`;
    case 'too_big':
      return `${issue.origin === 'string' ? `${String(came).length} characters` : it} came; ${
        issue.inclusive ? 'at most' : 'less than'
      } ${ofSize(issue.origin, issue.maximum)} is allowed.`;
    case 'invalid_value':
      return `${it} came; one of ${issue.values.map(String).join(', ')} is needed.`;
    case 'invalid_format':
      return `${it} came; needed: ${issue.message}.`;
    case 'unrecognized_keys':
      return `${issue.keys.join(', ')} is not known here.`;
    case 'custom':
      return /[.!?]$/.test(issue.message) ? issue.message : `${capital(issue.message)}.`;
    default:
      return `${it} came, which does not fit here.`;
  }
}

const ofSize = (origin: string, size: number | bigint): string =>
  origin === 'string'
    ? `${size} characters`
    : origin === 'array'
      ? `${size} entries`
      : String(size);

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
