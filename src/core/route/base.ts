/** What a value was tuned with, and whether that still stands (domain.md §9). */

import { z } from 'zod';
import type { Bench } from '../bench/bench';
import { inForce } from '../bench/in-force';
import { short } from '../numbers';
import { saidValue, settingInfo, type Setting } from '../bench/settings';

/** Circumstances of a value, by name, in words as they are shown. */
export const Base = z.record(z.string(), z.string());
export type Base = z.infer<typeof Base>;

/** The circumstances on which every tuned value of a bench stands. */
export function baseOf(bench: Bench, standsOn: readonly Setting[] = []): Base {
  const { machine, nozzle, filament } = bench;
  const now = inForce(bench);
  const tuned = standsOn
    .filter((setting) => Number.isFinite(now[setting]))
    .map((setting): [string, string] => [TUNED + setting, short(now[setting], 6)]);
  return {
    ...Object.fromEntries(tuned),
    nozzle: `${short(nozzle.diameter)} mm`,
    material: filament.material,
    'filament diameter': `${short(filament.diameter)} mm`,
    extruder: machine.extruder.drive === 'direct' ? 'direct' : 'tube-fed',
  };
}

/** The tuned values that it stands on, in words: `nozzle temperature 210 °C`. */
export const tunedIn = (base: Base): string[] =>
  Object.entries(base).flatMap(([name, was]) => {
    const setting = settingOf(name);
    if (!setting) return [];
    const { title } = settingInfo(setting);
    return [`${title} ${saidValue(setting, Number(was), 6)}`];
  });

/** Why a value is stale: every circumstance that has changed since. Empty when it is fresh. */
export function staleReasons(then: Base, now: Base): string[] {
  return Object.entries(then)
    .filter(([name, was]) => now[name] !== undefined && moved(name, was, now[name]))
    .map(([name, was]) => {
      const setting = settingOf(name);
      if (!setting) return `${name} changed from ${was} to ${now[name]}`;
      const { title, choices } = settingInfo(setting);
      const from = choices ? saidValue(setting, Number(was)) : was;
      return `${title} changed from ${from} to ${saidValue(setting, Number(now[name]), 6)}`;
    });
}

/** Mark of a circumstance that is itself a tuned value. */
const TUNED = 'tuned ';

export const settingOf = (name: string): Setting | null =>
  name.startsWith(TUNED) ? (name.slice(TUNED.length) as Setting) : null;

/** A tuned value counts as moved past its tolerance only; anything else when it is not the same. */
function moved(name: string, was: string, is: string): boolean {
  const setting = settingOf(name);
  if (!setting) return was !== is;
  const { amount, share } = settingInfo(setting).tolerance;
  const by = Math.abs(Number(is) - Number(was));
  return (
    (amount > 0 && by > amount + SLACK) || (share > 0 && by > share * Math.abs(Number(was)) + SLACK)
  );
}

/** Binary dust of decimals. */
const SLACK = 1e-9;
