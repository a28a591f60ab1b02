/** What a stroke can be coloured by: a number for every move, from the file itself. */

import { confirmRungs, type Asked } from '../gcode/confirm';
import { rungFinder } from '../gcode/rungs';
import { CHANGES } from '../dialect/changes';
import { MOVE, type Trace } from '../gcode/trace';
import { roundArea } from '../deposit/bead';
import type { Motion } from '../motion/plan-motion';

export const QUANTITIES = {
  rung: { title: 'rung value', unit: '' },
  speed: { title: 'speed reached', unit: 'mm/s' },
  nozzle: { title: 'temperature', unit: '°C' },
  flow: { title: 'melt flow', unit: 'mm³/s' },
  advance: { title: 'pressure advance', unit: '' },
} as const;
export type Quantity = keyof typeof QUANTITIES;
export const QUANTITY_NAMES = Object.keys(QUANTITIES) as Quantity[];

export type Seen = {
  trace: Trace;
  motion: Motion;
  /** What the carried plan asks for; nothing for a file from elsewhere. */
  asked: Asked;
  /** Filament strand, mm. */
  strand: number;
};

/** Value of every move; NaN where nothing is laid, or the file has not said it yet. */
export function quantityOf(name: Quantity, { trace, motion, asked, strand }: Seen): Float32Array {
  const { moves } = trace;
  const values = new Float32Array(moves.count).fill(NaN);
  const laid = (i: number) => moves.kind[i] === MOVE.extrude;
  if (name === 'speed') {
    for (let i = 0; i < moves.count; i++) if (laid(i)) values[i] = motion.top[i]!;
  } else if (name === 'flow') {
    const area = roundArea(strand);
    for (let i = 1; i < moves.count; i++) {
      const length = laid(i) ? lengthOf(trace, i) : 0;
      if (length > 0) values[i] = (moves.e[i]! / length) * area * motion.top[i]!;
    }
  } else if (name === 'rung') {
    const seen = seenOnRungs(trace, asked);
    const rungAt = rungFinder(asked.rungs, moves);
    for (let i = 0; i < moves.count; i++) {
      const rung = laid(i) ? rungAt(i) : -1;
      if (rung === -1) continue;
      const { value, slope, middle } = seen[rung]!;
      values[i] = value + slope * (moves.z[i]! - middle);
    }
  } else atStrokes(trace, name, values);
  return values;
}

/** What each rung really prints at, as commands or the moves themselves show it; NaN where nothing does. */
function seenOnRungs(
  trace: Trace,
  asked: Asked,
): { value: number; slope: number; middle: number }[] {
  const confirmed = confirmRungs(trace, asked);
  const { lead, rungs } = asked;
  return rungs.map(({ index, slope, z, at }) => {
    // Named sets have no value: they are told apart by their number.
    if (lead === null) return { value: at?.[0] ?? NaN, slope: 0, middle: 0 };
    const row = confirmed.find((one) => one.index === index && one.setting === lead);
    const perMm = slope?.[lead] ?? 0;
    return { value: row?.seen[0] ?? NaN, slope: perMm, middle: (z.from + z.to) / 2 };
  });
}

/** Value of a setting that is in force at each stroke. */
function atStrokes({ moves, changes }: Trace, setting: string, values: Float32Array): void {
  const code = CHANGES.findIndex((name) => name === setting);
  let now = NaN;
  let at = 0;
  for (let i = 0; i < moves.count; i++) {
    for (; at < changes.count && changes.move[at]! <= i; at++)
      if (changes.code[at] === code) now = changes.value[at]!;
    if (moves.kind[i] === MOVE.extrude) values[i] = now;
  }
}

/** Length of a move, mm; the first has none, since nobody knows where the head was. */
export function lengthOf({ moves: { x, y, z } }: Trace, i: number): number {
  if (i === 0) return 0;
  const dx = x[i]! - x[i - 1]!;
  const dy = y[i]! - y[i - 1]!;
  const dz = z[i]! - z[i - 1]!;
  return Math.sqrt(dx * dx + dy * dy + dz * dz);
}

/** Share of values at each end that the scale leaves out, so that one odd stroke does not flatten it. */
const ODD = 0.005;
/** Values looked at to find the ends of the scale. */
const SAMPLE = 20_000;

/** Ends of the scale for some values, or null when all are NaN. */
export function rangeOf(values: Float32Array): { low: number; high: number } | null {
  const stride = Math.max(1, Math.floor(values.length / SAMPLE));
  const some: number[] = [];
  for (let i = 0; i < values.length; i += stride)
    if (values[i] === values[i]) some.push(values[i]!);
  if (some.length === 0 && stride > 1) for (const v of values) if (v === v) some.push(v);
  if (some.length === 0) return null;
  some.sort((a, b) => a - b);
  const at = (share: number) => some[Math.round(share * (some.length - 1))]!;
  return { low: at(ODD), high: at(1 - ODD) };
}
