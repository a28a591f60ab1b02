/**
 * A plan: what a printed ladder is, enough to read it years later. `plan.json` holds it, a G-code file carries it,
 * and the store keeps it.
 */

import { z } from 'zod';
import { Bench } from '../bench/bench';
import { fail, parseWith, problem, type Result } from '../result';
import { SettingName, Values } from '../bench/settings';
import { MOST_AXES, MOST_RUNGS, MOST_STEPS } from './limits';
import { sameValues } from './axes';
import { upgraded } from './older';

const finite = z.number();
const PlanBox = z.object({ minX: finite, minY: finite, maxX: finite, maxY: finite });

/** Most places of one rung: nine over a whole bed. */
const MOST_PLACES = 9;

/** One step of an axis: what it is called, what stands in plastic where that is not the same, and what it sets. */
const AxisStep = z.object({
  label: z.string().min(1).max(40),
  mark: z.string().min(1).max(12).optional(),
  set: Values,
});

export const Axis = z.object({
  /** The setting whose value a rung has on this axis; null where its steps are named sets of values. */
  setting: SettingName.nullable(),
  title: z.string().max(80),
  unit: z.string().max(20),
  /** Unit of the marks in plastic, where they are other numbers than what the steps are called. */
  marks: z.string().max(40).optional(),
  /** Where its steps follow each other on the print; y runs to the rear, z up. */
  along: z.enum(['x', 'y', 'z']),
  steps: z.array(AxisStep).min(1).max(MOST_STEPS),
});
export type Axis = z.infer<typeof Axis>;

export const Rung = z.object({
  index: z.number().int().min(0),
  /** Its step on each axis, from 0. */
  at: z.array(z.number().int().min(0)).max(MOST_AXES),
  /** Every value that is its own; with what the plan holds, all that is in force there. */
  set: Values,
  /** Height band, mm over the bed. */
  z: z.object({ from: finite, to: finite }),
  layers: z.object({ first: z.number().int().min(0), last: z.number().int().min(0) }),
  /** Places on the bed, mm, when a rung is not a whole height band; the first is where it is looked at. */
  boxes: z.array(PlanBox).min(1).max(MOST_PLACES).optional(),
  /** Part of a rung on the bed, mm, that alone is looked at. */
  looked: PlanBox.optional(),
  /** Change of a value per mm of height; the value itself stands in the middle of the band. */
  slope: Values.optional(),
  /** Of a sliced file: what it had here before, that moves are told by: filament laid, mm, and time at the asked speeds, s. */
  was: z.object({ fed: finite, seconds: finite }).optional(),
  /** Line of the G-code file, from 1, at which its values take effect first. */
  line: z.number().int().min(1),
});
export type Rung = z.infer<typeof Rung>;

/** By a command of its own, by the firmware's own retraction, or by rewritten moves. */
export const Way = z.enum(['command', 'firmware', 'moves']);
export type Way = z.infer<typeof Way>;

export const Plan = z
  .object({
    format: z.literal('ash-ladder/plan'),
    version: z.literal(2),
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
    view: z.enum(['front', 'top']),
    /** What is seen from above, or where a grid that is seen from the front stands, mm on the bed. */
    frame: PlanBox.optional(),
    /** What else is set while the rungs are printed, and restored at the end. */
    held: Values,
    /** Filament that is fed once it is marked, mm, where that is what is measured. */
    fed: z.number().positive().optional(),
    /** Of a ladder made of a sliced file: how each setting is set, where there is more than one way. */
    ways: z.partialRecord(SettingName, Way).optional(),
    /** What climbs: nothing where something is measured, one setting on a ladder, two on a grid. */
    axes: z.array(Axis).max(MOST_AXES),
    rungs: z.array(Rung).min(1).max(MOST_RUNGS),
  })
  .superRefine(({ axes, rungs }, context) => {
    rungs.forEach(({ at, set }, i) => {
      const steps = axes.map(({ steps }, axis) => steps[at[axis] ?? -1]);
      const fits =
        at.length === axes.length && steps.every((step) => step && sameValues(set, step.set));
      if (!fits)
        context.addIssue({
          code: 'custom',
          path: ['rungs', i, 'at'],
          message: 'a rung stands on one step of each axis, and has the values of those steps',
        });
    });
  });
export type Plan = z.infer<typeof Plan>;

/** A plan as it may stand in a file or a store: plans of earlier versions are brought up to this one. */
export const StoredPlan = z.preprocess(upgraded, Plan);

/** A rung before its file is written. */
export type PlannedRung = Omit<Rung, 'line'>;

/** Reads a plan from text, as a file holds it or as a G-code file carries it. */
export function parsePlan(text: string): Result<Plan> {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    return fail(
      problem(
        'plan',
        'The plan is not complete JSON.',
        'Get the file again from where it came; its end may be missing.',
      ),
    );
  }
  return parseWith(StoredPlan, data, 'plan');
}
