/** Named commands of a machine's own (macros): what they may do, and what they are told to heat. */

import type { Command } from '../dialect/command';

/** What its user said of a macro. */
export type MacroSaid = { name: string; heats: boolean; homes: boolean; primes: boolean };

/** Bits of the change `macro`; one that nobody has spoken of may do all of it. */
export const MACRO = { heats: 1, homes: 2, primes: 4, unknown: 8 } as const;

export const macroBits = (said: MacroSaid | null): number =>
  said
    ? (said.heats ? MACRO.heats : 0) |
      (said.homes ? MACRO.homes : 0) |
      (said.primes ? MACRO.primes : 0)
    : MACRO.unknown;

const BED_KEY = /BED/;
const NOZZLE_KEY = /EXTRUDER|HOTEND|NOZZLE|TOOL_?TEMP|^TEMP|^S$|^T$/;

/** Temperatures among a macro's parameters, °C; null where it names none. */
export function macroHeats({ params }: Command): { nozzle: number | null; bed: number | null } {
  let [nozzle, bed]: (number | null)[] = [null, null];
  for (const [key, text] of params) {
    const value = Number(text);
    if (text === '' || !(value >= 0 && value <= 600)) continue;
    if (BED_KEY.test(key)) bed ??= value;
    else if (NOZZLE_KEY.test(key)) nozzle ??= value;
  }
  return { nozzle: nozzle ?? null, bed: bed ?? null };
}
