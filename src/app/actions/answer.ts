/** Answers that many acts give, and what every act asks of its arguments: anybody can call it with anything. */

import { z } from 'zod';
import type { Answer } from '@/core/result';

export type { Answer };
export const done: Answer = { ok: true, value: null };

/** Something that is gone: deleted in another window, or an old link. */
export const gone = (what: string): Answer<never> => ({
  ok: false,
  problems: [{ where: what, what: `This ${what} no longer exists.`, mend: 'Load the page again.' }],
});

const Id = z.number().int().positive().max(Number.MAX_SAFE_INTEGER).catch(0);

/** An id as it was sent; 0, which nothing has, for what is none. */
export const idIn = (sent: unknown): number => Id.parse(sent);

/** Inputs of a ladder by their names; what they may be, their kind says. */
export const Spec = z
  .record(z.string().max(40), z.number())
  .refine((spec) => Object.keys(spec).length <= 60);
