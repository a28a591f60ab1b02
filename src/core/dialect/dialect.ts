/** Which commands a machine takes, need by need (domain.md §7). */

import { z } from 'zod';
import type { Command } from './command';
import {
  fillTemplate,
  LONGEST_TEMPLATE,
  matchCommand,
  matcherOf,
  templateProblems,
  type Values,
} from './template';

/** What a machine can be told, and the variables that each need has. Lengths mm, speeds mm/s. */
export const NEEDS = {
  advance: { title: 'pressure advance', variables: ['advance'] },
  acceleration: { title: 'acceleration', variables: ['print', 'travel'] },
  cornering: { title: 'cornering', variables: ['x', 'y', 'deviation', 'square'] },
  nudge: { title: 'live z nudge', variables: ['dz'] },
  shaper: { title: 'input shaper of both axes', variables: ['frequency', 'damping', 'type'] },
  steps: { title: 'extruder steps', variables: ['steps', 'rotation'] },
  shaperX: { title: 'input shaper in x', variables: ['frequency_x', 'damping_x', 'type_x'] },
  shaperY: { title: 'input shaper in y', variables: ['frequency_y', 'damping_y', 'type_y'] },
} as const;
export type Need = keyof typeof NEEDS;
export const NEED_NAMES = Object.keys(NEEDS) as Need[];

const row = (need: Need) =>
  z
    .string()
    .max(LONGEST_TEMPLATE)
    .superRefine((text, context) => {
      for (const { what, mend } of templateProblems(need, text, NEEDS[need].variables)) {
        context.addIssue({ code: 'custom', message: `${what} ${mend}` });
      }
    });
const plain = z
  .string()
  .max(LONGEST_TEMPLATE)
  .regex(/^[\x20-\x7e]*$/, 'one printable line');

const rows = {
  advance: row('advance'),
  acceleration: row('acceleration'),
  cornering: row('cornering'),
  nudge: row('nudge'),
  shaper: row('shaper'),
  steps: row('steps'),
  // Machines that were described before these rows were there have none of them.
  shaperX: row('shaperX').default(''),
  shaperY: row('shaperY').default(''),
};

export const Dialect = z.object({
  ...rows,
  /** Command that prints the stored settings; empty when they stand in a file. */
  report: plain,
  /** Command that keeps the settings; empty when they are written into a settings file. */
  save: plain,
  /** How the same values stand in the machine's settings file; an empty row means: as the command. */
  file: z.object(rows),
});
export type Dialect = z.infer<typeof Dialect>;

const NO_FILE = {
  advance: '',
  acceleration: '',
  cornering: '',
  nudge: '',
  shaper: '',
  steps: '',
  shaperX: '',
  shaperY: '',
};

/** One axis of a machine that has a shaper for each, as a command and as it stands in a settings file. */
const ofAxis = (axis: 'x' | 'y') => {
  const type = `{type_${axis}:zv|zvd|mzv|ei|2hump_ei|3hump_ei}`;
  const big = axis.toUpperCase();
  return {
    command:
      `SET_INPUT_SHAPER SHAPER_TYPE_${big}=${type} SHAPER_FREQ_${big}={frequency_${axis}} ` +
      `DAMPING_RATIO_${big}={damping_${axis}}`,
    file: `shaper_type_${axis}: ${type}, shaper_freq_${axis}: {frequency_${axis}}, damping_ratio_${axis}: {damping_${axis}}`,
  };
};

/** The four usual sets, chosen by the commands that the machine takes. */
export const DIALECTS = {
  A: {
    advance: 'M900 K{advance}',
    acceleration: 'M204 P{print} T{travel}',
    cornering: 'M205 X{x} Y{y}',
    nudge: 'M290 Z{dz}',
    shaper: 'M593 F{frequency} D{damping}',
    steps: 'M92 E{steps}',
    shaperX: '',
    shaperY: '',
    report: 'M503',
    save: 'M500',
    file: NO_FILE,
  },
  B: {
    advance: 'M900 K{advance}',
    acceleration: 'M204 P{print} T{travel}',
    cornering: 'M205 J{deviation}',
    nudge: 'M290 Z{dz}',
    shaper: 'M593 F{frequency} D{damping}',
    steps: 'M92 E{steps}',
    shaperX: '',
    shaperY: '',
    report: 'M503',
    save: 'M500',
    file: NO_FILE,
  },
  C: {
    advance: 'M572 D0 S{advance}',
    acceleration: 'M204 P{print} T{travel}',
    cornering: 'M566 X{x_mm_min} Y{y_mm_min}',
    nudge: 'M290 S{dz}',
    shaper: 'M593 P"{type:|zvd|mzv||ei2|ei3}" F{frequency} S{damping}',
    steps: 'M92 E{steps}',
    shaperX: '',
    shaperY: '',
    report: 'M503',
    save: '',
    file: NO_FILE,
  },
  D: {
    advance: 'SET_PRESSURE_ADVANCE ADVANCE={advance}',
    acceleration: 'SET_VELOCITY_LIMIT ACCEL={print}',
    cornering: 'SET_VELOCITY_LIMIT SQUARE_CORNER_VELOCITY={square}',
    nudge: 'SET_GCODE_OFFSET Z_ADJUST={dz} MOVE=1',
    shaper: '',
    shaperX: ofAxis('x').command,
    shaperY: ofAxis('y').command,
    steps: '',
    report: '',
    save: '',
    file: {
      advance: 'pressure_advance: {advance}',
      acceleration: 'max_accel: {print}',
      cornering: 'square_corner_velocity: {square}',
      nudge: '',
      shaper: '',
      steps: 'rotation_distance: {rotation}',
      shaperX: ofAxis('x').file,
      shaperY: ofAxis('y').file,
    },
  },
} as const satisfies Record<string, Dialect>;
export type Column = keyof typeof DIALECTS;

/** What each column is called where a person chooses one. */
export const COLUMN_TITLES: Record<Column, string> = {
  A: 'A: M900 and per-axis jerk (M205 X Y)',
  B: 'B: M900 and junction deviation (M205 J)',
  C: 'C: M572 and jerk in mm/min (M566)',
  D: 'D: named commands (SET_…)',
};

/** Firmware by how it takes modes and values; a dialect of the user's own is told by the command words in it. */
export type Firmware = 'AB' | 'C' | 'D';

export function firmwareOf(dialect: Dialect | null): Firmware {
  const rows = dialect ? NEED_NAMES.map((need) => dialect[need]) : [];
  if (rows.some((text) => /^M5(72|66)\b/.test(text))) return 'C';
  if (rows.some((text) => /^SET_[A-Z]/.test(text))) return 'D';
  return 'AB';
}

/** The line that sets a need, or null when this machine cannot be told or a value is missing. */
export function settingLine(dialect: Dialect, need: Need, values: Values): string | null {
  return dialect[need] === '' ? null : fillTemplate(dialect[need], values);
}

/** A setting that a command changes. */
export type SettingChange = { need: Need; values: Values };

/** Makes a reader for the setting commands of one dialect. First row that fits wins. */
export function settingReader(dialect: Dialect): (command: Command) => SettingChange[] {
  const matchers = NEED_NAMES.flatMap((need) => {
    const matcher = matcherOf(dialect[need]);
    return matcher ? [{ need, matcher }] : [];
  });
  return (command) =>
    matchers.flatMap(({ need, matcher }) => {
      const values = matchCommand(matcher, command);
      return values ? [{ need, values }] : [];
    });
}

/** Whether a machine waits at `M0` until somebody presses its button; others only wait for a time. */
export const waitsForButton = (dialect: Dialect): boolean => firmwareOf(dialect) === 'AB';
