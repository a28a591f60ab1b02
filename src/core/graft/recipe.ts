/** What a ladder made of a sliced file is made with, and all that was changed: enough to take it out again. */

import { z } from 'zod';
import { SettingName, Values } from '../bench/settings';
import { CLIMBS, climbsInFiles, type Climbs } from '../ladders/graft/kind';
import { MOST_STEPS } from '../plan/limits';
import { Way } from '../plan/plan';
import { fail, ok, problem, type Result } from '../result';

export { CLIMBS, climbsInFiles as climbsIn, type Climbs };

/** Commands of the file that may be in the way, by kind. */
export const OBSTACLES = [
  'temperature',
  'fan',
  'acceleration',
  'cornering',
  'advance',
  'flow',
  'pace',
  'retraction',
  'slowed',
] as const;
export const Obstacle = z.enum(OBSTACLES);
export type Obstacle = z.infer<typeof Obstacle>;

/** What is done about an obstacle: its lines are turned into comments, left, or one value holds throughout. */
export const Mend = z.enum(['lift', 'leave', 'hold']);
export type Mend = z.infer<typeof Mend>;

/** Values from a height on, mm over the bed. */
export const Row = z.object({ from: z.number().min(0).max(5000), set: Values });
export type Row = z.infer<typeof Row>;

/** What somebody asks for. */
export const Wish = z.object({
  /** From below; each holds up to the next, the last to the top of the print. */
  rows: z.array(Row).min(1).max(MOST_STEPS),
  /** Where a value climbs with every layer: how much a mm. Its rows say the value at their foot. */
  slope: z.object({ setting: SettingName, perMm: z.number() }).optional(),
  /** How a setting is set where the file and the machine leave a choice. */
  ways: z.partialRecord(SettingName, Way).default({}),
  mends: z.partialRecord(Obstacle, Mend).default({}),
  /** Whether start and end of the file are replaced by those of the bench. */
  ownBlocks: z.boolean().default(false),
});
export type Wish = z.infer<typeof Wish>;
export type WishInput = z.input<typeof Wish>;

const count = z.number().int().min(0);
const Runs = z.array(count).max(4_000_000);

export const Recipe = z.object({
  format: z.literal('ash-ladder/recipe'),
  version: z.literal(1),
  program: z.string().max(40),
  wish: Wish,
  original: z.object({
    name: z.string().max(200),
    bytes: count,
    lines: count,
    crc32: count,
    /** Whether its last line ends with a line end. */
    ended: z.boolean(),
  }),
  /** Lines of the made file, from 1, as runs of gap and count. */
  inserted: Runs,
  lifted: Runs,
  rewritten: Runs,
  /** First line of what was added at the end. */
  tail: count,
});
export type Recipe = z.infer<typeof Recipe>;

/** How the lines of a recipe begin, those that hold numbers as they were, and a line of the file that was lifted out. */
export const RECIPE_MARK = ';@graft ';
export const WAS_MARK = ';@was ';
export const LIFTED_MARK = ';@out ';

export function parseRecipe(text: string): Result<Recipe> {
  const broken = (what: string) =>
    fail(problem('recipe', what, 'Get the file again from where it came; part of it is missing.'));
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    return broken('The recipe at the end of the file is not complete.');
  }
  const parsed = Recipe.safeParse(data);
  return parsed.success ? ok(parsed.data) : broken('The recipe at the end of the file is damaged.');
}
