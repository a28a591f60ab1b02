/** `plan.json`: what a printed ladder is, enough to read it years later. */

import { z } from 'zod';
import { Bench } from '../bench/bench';
import { inForce } from '../bench/in-force';
import { beadArea, roundArea } from '../deposit/bead';
import { beadWidthOf } from '../deposit/conditions';
import type { Asked } from '../gcode/confirm';
import { fail, parseWith, problem, type Result } from '../result';
import { MOST_RUNGS } from './climb';
import { SETTING_NAMES } from '../settings';

const finite = z.number();
const PlanBox = z.object({ minX: finite, minY: finite, maxX: finite, maxY: finite });

const Values = z.partialRecord(z.enum(SETTING_NAMES), finite);

/** Most places of one rung: nine over a whole bed. */
const MOST_PLACES = 9;

export const PlanRung = z.object({
  index: z.number().int().min(0),
  /** Value of each setting on this rung. */
  set: Values,
  /** Height band, mm over the bed. */
  z: z.object({ from: finite, to: finite }),
  layers: z.object({ first: z.number().int().min(0), last: z.number().int().min(0) }),
  /** Places on the bed, mm, when a rung is not a whole height band; the first is where it is looked at. */
  boxes: z.array(PlanBox).min(1).max(MOST_PLACES).optional(),
  /** Part of a rung on the bed, mm, that alone is looked at. */
  looked: PlanBox.optional(),
  /** Change of the value per mm of height; the value itself stands in the middle of the band. */
  slope: finite.optional(),
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
  /** How the print is looked at: a tower from the front, a flat pattern from above. */
  view: z.enum(['front', 'top']).default('front'),
  /** What is seen from above, mm on the bed. */
  frame: PlanBox.optional(),
  /** What else is held while the rungs are printed, and put back at the end. */
  held: Values.default({}),
  rungs: z.array(PlanRung).min(1).max(MOST_RUNGS),
});
export type PlanFile = z.infer<typeof PlanFile>;

/** What the audit holds a file against. */
export function askedFor({ rungs, held, layerHeight, bench }: PlanFile): Asked {
  const bore = bench.nozzle.diameter;
  const width = Math.max(beadWidthOf(bore), layerHeight);
  return {
    rungs,
    held,
    expected: {
      layerHeight,
      bead: beadArea(width, layerHeight),
      strand: roundArea(bench.filament.diameter),
      bore,
      now: inForce(bench),
    },
  };
}

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
