/** `plan.json`: what a printed ladder is, enough to read it years later. */

import { z } from 'zod';
import { Bench } from '../bench/bench';
import { fail, parseWith, problem, type Result } from '../result';
import { MOST_RUNGS } from './climb';
import { SETTING_NAMES, type Setting } from '../settings';

const finite = z.number();

export const PlanRung = z.object({
  index: z.number().int().min(0),
  /** Value of each setting on this rung. */
  set: z.partialRecord(z.enum(SETTING_NAMES as [Setting, ...Setting[]]), finite),
  /** Height band, mm over the bed. */
  z: z.object({ from: finite, to: finite }),
  layers: z.object({ first: z.number().int().min(0), last: z.number().int().min(0) }),
  /** Line of the G-code file, from 1, that sets the value. */
  line: z.number().int().min(1),
});
export type PlanRung = z.infer<typeof PlanRung>;

export const PlanFile = z.object({
  format: z.literal('ash-ladder/plan'),
  version: z.literal(1),
  /** Version of the program that made it. */
  program: z.string().max(40),
  kind: z.string().max(60),
  spec: z.record(z.string(), z.unknown()),
  bench: Bench,
  /** Name of the G-code file. */
  file: z.string().max(200),
  layerHeight: z.number().positive(),
  height: z.number().positive(),
  /** Width of the print seen from the front, mm. */
  width: z.number().positive(),
  rungs: z.array(PlanRung).min(1).max(MOST_RUNGS),
});
export type PlanFile = z.infer<typeof PlanFile>;

/** Reads a plan from text, as a file holds it or as a G-code file carries it. */
export function parsePlan(text: string): Result<PlanFile> {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    return fail(
      problem(
        'plan',
        'The plan is not complete JSON.',
        'Take the file from its source again; its end may be missing.',
      ),
    );
  }
  return parseWith(PlanFile, data, 'plan');
}
