/** What several kinds ask of a machine's commands. */

import type { Bench } from '../bench/bench';
import { inForce } from '../bench/in-force';
import { NEEDS } from '../dialect/dialect';
import { entriesOf, fillTemplate } from '../dialect/template';
import { short, TYPED_SLACK } from '../numbers';
import { problem, type Problem } from '../result';
import { settingInfo, type Setting, valueLine, type Values } from '../bench/settings';
import type { Carry, Warning } from './types';
import { warn } from './guards';

/** A bench whose machine has no command for a setting cannot climb it. */
export function needsCommand(setting: Setting, bench: Bench): Problem | null {
  if (valueLine(setting, 1, bench) !== null) return null;
  const { title, row } = settingInfo(setting);
  return problem(
    'machine',
    `${bench.machine.name} has no command for ${title}.`,
    `Fill in the row for ${row ? NEEDS[row.need].title : title} among the machine’s commands, if its firmware has one.`,
  );
}

/** Values that are held no higher than some, of settings that the machine has and can be told. */
export function atMost(ceilings: readonly [Setting, number][], bench: Bench): Values {
  const now = inForce(bench);
  const low = ceilings
    .filter(([setting]) => Number.isFinite(now[setting]))
    .map(([setting, value]): [Setting, number] => [setting, Math.min(now[setting], value)])
    .filter(([setting, value]) => valueLine(setting, value, bench) !== null);
  return Object.fromEntries(low);
}

/** The range must lie within what the bench allows. */
export function inBounds(
  setting: Setting,
  { from, to }: { from: number; to: number },
  { min, max }: { min: number; max: number },
  why: string,
): Warning[] {
  const { title, unit } = settingInfo(setting);
  const [low, high] = [Math.min(from, to), Math.max(from, to)];
  if (low >= min - TYPED_SLACK && high <= max + TYPED_SLACK) return [];
  const where = high > max === to > from ? 'to' : 'from';
  const bad = high > max ? high : low;
  return [
    warn(
      'stop',
      'out-of-bounds',
      where,
      `${short(bad)} ${unit} of ${title} was asked for; ${why}.`,
      `Stay within ${short(min)} and ${short(max)} ${unit}.`,
    ),
  ];
}

/** How a value is carried over by the machine's own command, and stored. */
export function carryByCommand(setting: Setting, value: number, bench: Bench): Carry {
  const { dialect } = bench.machine;
  const { row } = settingInfo(setting);
  const line = valueLine(setting, value, bench);
  const stored = row ? dialect.file[row.need] : '';
  const file = row && stored !== '' ? fillTemplate(stored, row.values(value, bench)) : null;
  if (file !== null)
    return {
      lines: entriesOf(file),
      say: 'Write it into the machine’s settings file and restart it.',
    };
  if (line === null)
    return { lines: [], say: 'This machine has no command for it; enter it in your slicer.' };
  return dialect.save === ''
    ? { lines: [line], say: 'Put the line into your start block, or into the settings file.' }
    : {
        lines: [line, dialect.save],
        say: 'The first line sets it, the second saves it. For one filament only, put the first into its start block.',
      };
}

/** A value that is entered where one slices. */
export const carryBySlicing = (setting: Setting, value: number, bench: Bench): Carry => {
  const { title, unit } = settingInfo(setting);
  return {
    lines: [],
    say: `Enter ${short(value)} ${unit} as ${title} of ${bench.filament.name} in your slicer.`,
  };
};

/** Where a value stands now, said in a reason. */
export const standsAt = (setting: Setting, bench: Bench): string => {
  const { title, unit } = settingInfo(setting);
  const value = inForce(bench)[setting];
  return bench.tuned?.[setting] === undefined
    ? `No ${title} has been found for this bench yet.`
    : `The ledger holds ${short(value)} ${unit} of ${title}.`;
};
