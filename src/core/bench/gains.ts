/** Constants of a heater's controller: what a report says of them, and what the machine's own tuning found. */

import { parseCommand, param } from '../dialect/command';
import type { Firmware } from '../dialect/dialect';
import { short } from '../numbers';
import { sameAsPrinted } from './reported';

export type Gains = { p: number; i: number; d: number };

const CHATTER = /^\s*(?:echo:|recv:|\/\/)\s*/i;
const NUMBER = '(-?\\d+(?:\\.\\d+)?)';
const found = (name: string) =>
  new RegExp(`(?:^|[^a-z])(?:pid_)?k${name}\\s*[:=]\\s*${NUMBER}`, 'i');
const [P, I, D] = ['p', 'i', 'd'].map(found);

/** The constants in force, from a report; null where it does not speak of them. */
export function gainsIn(report: readonly string[]): Gains | null {
  for (const raw of [...report].reverse()) {
    const command = parseCommand(raw.replace(CHATTER, ''));
    if (command?.word !== 'M301') continue;
    const [p, i, d] = ['P', 'I', 'D'].map((key) => param(command, key));
    if (p != null && i != null && d != null) return { p, i, d };
  }
  return null;
}

/** What tuning has found, in one line or in three, the last time it was said. */
export function tunedGains(said: readonly string[]): Gains | null {
  const seen: Partial<Gains> = {};
  for (const line of said) {
    for (const [name, form] of [
      ['p', P],
      ['i', I],
      ['d', D],
    ] as const) {
      const [, value] = form!.exec(line) ?? [];
      if (value !== undefined) seen[name] = Number(value);
    }
  }
  const { p, i, d } = seen;
  return p !== undefined && i !== undefined && d !== undefined ? { p, i, d } : null;
}

export const sameGains = (a: Gains, b: Gains): boolean =>
  (['p', 'i', 'd'] as const).every((name) => sameAsPrinted(a[name], b[name]));

/** Swings about the temperature; more find no better constants. */
const SWINGS = 8;

/** The command by which a machine tunes the heater of its nozzle. */
export const tuneLine = (celsius: number, firmware: Firmware): string =>
  firmware === 'D'
    ? `PID_CALIBRATE HEATER=extruder TARGET=${short(celsius)}`
    : `M303 E0 S${short(celsius)} C${SWINGS}`;

/** The command that puts constants in force; null where they stand in a file. */
export const gainsLine = ({ p, i, d }: Gains, firmware: Firmware): string | null =>
  firmware === 'D' ? null : `M301 P${short(p, 2)} I${short(i, 2)} D${short(d, 2)}`;
